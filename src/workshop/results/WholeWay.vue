<script setup lang="ts">
import { computed } from 'vue'
import type { wholeWay } from '#core/results'
import { useReportPart } from '../charts'

/** The whole way in the order of the stations, each with its share of the one before. Onlookers are no loss. */
const { sums } = defineProps<{ sums: ReturnType<typeof wholeWay> }>()
interface Stage {
  station: string
  what: string
  count: number | null
  /** Those before, of whom these are a share; null where others are counted. */
  of: number | null
  ofWhom?: string
  thick?: number
}
const steps = computed((): Stage[] => [
  { station: 'Page', what: 'saw a form', count: sums.views, of: null },
  { station: 'Form', what: 'began to fill it in', count: sums.starts, of: sums.views, ofWhom: 'who saw it' },
  { station: 'Answer', what: 'signed up', count: sums.signUps, of: sums.starts, ofWhom: 'who began' },
  // Where nobody has to confirm, nothing happens there.
  ...(sums.asked > 0
    ? [{ station: 'Mail', what: 'were asked to confirm', count: sums.asked, of: null, thick: sums.signUps }]
    : []),
  { station: 'List', what: 'are on a list', count: sums.confirmed, of: sums.signUps, ofWhom: 'who signed up' },
])
const most = computed(() => Math.max(1, ...steps.value.map(({ count }) => count ?? 0)))
const shares = computed(() => steps.value.map(({ count, of, ofWhom = '' }) => shareOf(count, of, ofWhom)))
function shareOf(count: number | null, of: number | null, ofWhom: string): string {
  if (count === null || of === null || of === 0 || count > of) return ''
  return `${Math.round((count / of) * 100)} in 100 ${ofWhom}`
}
useReportPart(0, () =>
  Promise.resolve({
    title: 'The whole way',
    words: '',
    picture: null,
    columns: [{ label: 'Station' }, { label: 'People', isNumber: true }, { label: '' }, { label: 'Of those before' }],
    rows: steps.value.map(({ station, what, count }, at) => [
      station,
      count === null ? 'not counted' : count.toLocaleString('en-GB'),
      what,
      shares.value[at] ?? '',
    ]),
    isOpen: true,
  }),
)
</script>

<template>
  <ol class="way" :style="{ '--stages': steps.length }">
    <li v-for="({ station, what, count, thick }, index) in steps" :key="station">
      <span class="track" aria-hidden="true"
        ><span
          class="part"
          :style="{ height: count === null ? '2px' : `${Math.max(3, Math.sqrt((thick ?? count) / most) * 56)}px` }"
      /></span>
      <strong>{{ station }}</strong>
      <span v-if="count !== null"
        ><b>{{ count.toLocaleString('en-GB') }}</b> <span class="quiet small">{{ what }}</span></span
      >
      <span v-else class="quiet small">not known here</span>
      <span class="quiet small">{{ shares[index] }}</span>
    </li>
  </ol>
</template>

<style scoped>
.way {
  display: grid;
  grid-template-columns: repeat(var(--stages), minmax(0, 1fr));
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  align-content: start;
  padding-inline-end: var(--gap-2);
  line-height: 1.3;
}
.track {
  display: grid;
  align-items: center;
  height: 60px;
  margin-inline-end: calc(-1 * var(--gap-2));
}
.part {
  background: var(--moss);
}
b {
  font-size: var(--text-l);
  font-variant-numeric: tabular-nums;
}
@media (max-width: 600px) {
  .way {
    grid-template-columns: minmax(0, 1fr);
    gap: var(--gap-2);
  }
  .track {
    display: none;
  }
}
</style>

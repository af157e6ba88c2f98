<script setup lang="ts">
import { computed } from 'vue'
import type { wholeWay } from '#core/results'
import { useReportPart } from '../charts'

/** The whole way in the order of the stations, narrowing by what is lost at each. */
const { sums } = defineProps<{ sums: ReturnType<typeof wholeWay> }>()
const steps = computed((): { station: string; what: string; count: number | null; thick?: number }[] => [
  { station: 'Page', what: 'saw a form', count: sums.views },
  { station: 'Form', what: 'began', count: sums.starts },
  { station: 'Answer', what: 'signed up', count: sums.signUps },
  { station: 'Mail', what: 'were asked to confirm', count: sums.asked, thick: sums.signUps },
  { station: 'List', what: 'are on a list', count: sums.confirmed },
])
const most = computed(() => Math.max(1, ...steps.value.map(({ count }) => count ?? 0)))
/** What was lost since the station before that counts the same people. */
const lost = computed(() => [
  '',
  lostWords(sums.views, sums.starts),
  lostWords(sums.starts, sums.signUps),
  '',
  lostWords(sums.signUps, sums.confirmed),
])
function lostWords(before: number | null, after: number | null): string {
  if (before === null || after === null || before <= after) return ''
  return `${(before - after).toLocaleString('en-GB')} lost`
}
useReportPart(0, () =>
  Promise.resolve({
    title: 'The whole way',
    words: '',
    picture: null,
    columns: [{ label: 'Station' }, { label: 'People', isNumber: true }, { label: '' }, { label: 'Lost' }],
    rows: steps.value.map(({ station, what, count }, at) => [
      station,
      count === null ? 'not counted' : count.toLocaleString('en-GB'),
      what,
      lost.value[at] ?? '',
    ]),
    isOpen: true,
  }),
)
</script>

<template>
  <ol class="way">
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
      <span class="problem small">{{ lost[index] }}</span>
    </li>
  </ol>
</template>

<style scoped>
.way {
  display: grid;
  grid-template-columns: repeat(5, minmax(0, 1fr));
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

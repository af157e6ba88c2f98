<script setup lang="ts">
import { ElButton, ElProgress } from 'element-plus'
import { computed, ref, watch } from 'vue'
import { type Connection, handOverMs, serviceOf, type HandOver } from '#core/connection'
import type { List } from '#core/list'
import { shownMoment } from '../controls'
import { peopleCount } from '../lists'
import { useNotices } from '../notices'
import { useMembers } from '../people'
import { useOutside } from '.'

/** Who is on the list already goes to its new place, too: forecast before, followed while it goes on. */
const { list, handOver, connection } = defineProps<{ list: List; handOver: HandOver; connection: Connection }>()
const outside = useOutside()
const members = useMembers()
const notices = useNotices()
const isBusy = ref(false)

const standing = computed(() => outside.handOver(handOver.id))
const canCompare = computed(() => serviceOf(connection.way)?.requests.members !== undefined)
const here = computed(() => members.countsOf(list.id)?.confirmed ?? 0)
const isUntouched = computed(() => {
  const now = standing.value
  return now !== null && now.waiting === 0 && now.there === 0 && now['to-confirm'] === 0 && now.refused === 0
})

/** Fewer than these are there before anybody has read how long it takes. */
const LEAST_FOLLOWED = 30
/** Since when it goes on, with how many then. */
const begun = ref<{ at: number; waiting: number } | null>(null)
const waiting = computed(() => standing.value?.waiting ?? 0)
watch(
  waiting,
  (now, before) => {
    if (now === 0) begun.value = null
    else if (begun.value === null || now > (before ?? 0)) begun.value = { at: Date.now(), waiting: now }
  },
  { immediate: true },
)
const most = ref(0)
watch(waiting, (now) => (most.value = now === 0 ? 0 : Math.max(most.value, now)), { immediate: true })

function readyAt(count: number): string {
  const service = serviceOf(connection.way)
  if (service === null) return ''
  const seen =
    begun.value === null || begun.value.waiting <= waiting.value
      ? null
      : { count: begun.value.waiting - waiting.value, ms: Date.now() - begun.value.at }
  return shownMoment(new Date(Date.now() + handOverMs(count, service, seen)).toISOString())
}

async function begin(): Promise<void> {
  isBusy.value = true
  try {
    await outside.client!.beginHandingOver(handOver.id)
    await outside.look()
    notices.done('They go there now. It can be paused at any time, and gone on with.')
  } catch (error) {
    notices.problem(error instanceof Error ? error.message : String(error))
  } finally {
    isBusy.value = false
  }
}
</script>

<template>
  <section v-if="isUntouched && here > 0" class="sheet first" aria-labelledby="first-title">
    <h2 id="first-title">Who is on the list already</h2>
    <p>
      {{ peopleCount(here) }}, ready {{ readyAt(here) }} at the pace that the service takes. Who is there already is
      brought up to date, and nobody gets mail from here for it.
      <template v-if="canCompare">To see first what it would change, compare both lists below.</template>
    </p>
    <ElButton type="primary" :loading="isBusy" :disabled="handOver.isPaused || undefined" @click="begin()"
      >Hand over everybody</ElButton
    >
  </section>
  <div v-else-if="most >= LEAST_FOLLOWED && waiting > 0" class="going" role="status">
    <span>{{ peopleCount(waiting) }} to go{{ handOver.isPaused ? ', paused' : `, ready ${readyAt(waiting)}` }}.</span>
    <ElProgress :percentage="Math.floor((100 * (most - waiting)) / most)" aria-label="How many of them are there" />
  </div>
</template>

<style scoped>
.first,
.going {
  display: grid;
  gap: var(--gap-2);
  justify-items: start;
}
.first {
  padding: var(--gap-3) var(--gap-4);
}
.going .el-progress {
  width: 100%;
  max-width: 560px;
}
h2,
p {
  margin: 0;
}
</style>

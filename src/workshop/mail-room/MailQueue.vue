<script setup lang="ts">
import type { MailOnList, Pace } from '#core/api'
import { ElButton, ElEmpty, ElSkeleton, ElTable, ElTableColumn } from 'element-plus'
import { useIntervalFn } from '@vueuse/core'
import { computed, shallowRef, watch } from 'vue'
import type { ListId } from '#core/ids'
import { mailNames } from '#core/mail'
import { dayAfter, daysFrom, localTime } from '#core/results'
import AddressText from '../controls/AddressText.vue'
import Changes from '../controls/Changes.vue'
import DayBars from '../charts/DayBars.vue'
import { clientFor } from '../client'
import { shownMoment } from '../controls'
import { useWorkspace } from '../data'
import { HERE } from '../results/rhythm'
import { useReceiver } from '../sync'
import { stacked } from '../controls'

/** Each mail with what became of it, and why; what waits, against how many may go. */
export type MailQueueState = 'waiting' | 'sent' | 'refused' | 'dropped'
const receiver = useReceiver()
const workspace = useWorkspace()
const {
  state,
  waiting = 0,
  pace = null,
} = defineProps<{ state: MailQueueState; /** How many wait in all. */ waiting?: number; pace?: Pace | null }>()
/** Null until they are read. */
const mails = shallowRef<MailOnList[] | null>(null)

async function look(): Promise<void> {
  if (receiver.pairing === null) return
  const wanted = state
  const { mails: found } = await clientFor(receiver.pairing)
    .mailsInState(wanted)
    .catch(() => ({ mails: mails.value ?? [] }))
  if (wanted === state) mails.value = found
}
watch(
  () => state,
  () => {
    mails.value = null
    void look()
  },
  { immediate: true },
)
useIntervalFn(() => void look(), 2_000)
const rows = computed(() =>
  (mails.value ?? []).map((mail) => ({
    ...mail,
    what: mailNames[mail.kind],
    listName: workspace.list(mail.list as ListId)?.name ?? 'a list',
    at: shownMoment(new Date(state === 'waiting' ? mail.queued : mail.due).toISOString()),
    next: shownMoment(new Date(mail.due).toISOString()),
  })),
)

const DAYS = 30
/** How often the server refused on each of the last days; null where nothing was refused. */
const refusedByDay = computed(() => {
  if (state !== 'refused' || rows.value.length === 0) return null
  const { day: today } = localTime(Date.now(), HERE)
  const days = daysFrom(dayAfter(today, 1 - DAYS), today)
  const counts = new Map<string, number>()
  for (const { due } of rows.value) {
    const { day } = localTime(due, HERE)
    counts.set(day, (counts.get(day) ?? 0) + 1)
  }
  return days.map((day) => counts.get(day) ?? 0)
})

const HOURS = 24
/** How many leave in each of the next hours at most, as the pace allows; null where all leave within this hour. */
const leavingByHour = computed(() => {
  if (state !== 'waiting' || pace === null || waiting <= pace.hour) return null
  const ofDay = Math.min(waiting, pace.day)
  return Array.from({ length: HOURS }, (_, hour) => Math.max(0, Math.min(pace.hour, ofDay - hour * pace.hour)))
})
const leavingWords = computed(() => {
  if (leavingByHour.value === null || pace === null) return ''
  const after = waiting - Math.min(waiting, pace.day, pace.hour * HOURS)
  const rest = after > 0 ? `; ${after.toLocaleString('en-GB')} wait for the days after` : ''
  return `${waiting.toLocaleString('en-GB')} wait, ${pace.hour.toLocaleString('en-GB')} may go in an hour: the next ${HOURS} hours${rest}`
})

async function again(id: string): Promise<void> {
  if (receiver.pairing === null) return
  await clientFor(receiver.pairing).tryMailAgain(id)
  await look()
}
const empty: Record<MailQueueState, string> = {
  waiting: 'Nothing waits to be sent.',
  sent: 'Nothing was sent in the last 30 days.',
  refused: 'Nothing was refused in the last 30 days.',
  dropped: 'Nothing became needless.',
}
</script>

<template>
  <section aria-label="Mail on its way" class="queue">
    <ElSkeleton v-if="mails === null" :rows="3" animated />
    <ElEmpty v-else-if="rows.length === 0" :description="empty[state]" :image-size="60" />
    <div v-if="leavingByHour" class="days">
      <DayBars :counts="leavingByHour" />
      <span class="quiet small">{{ leavingWords }}</span>
    </div>
    <div v-if="refusedByDay" class="days">
      <DayBars :counts="refusedByDay" is-bad />
      <span class="quiet small"
        >Refused by day, in the last {{ DAYS }} days{{ rows.length >= 200 ? ', of the newest 200' : '' }}</span
      >
    </div>
    <ElTable v-bind="stacked" v-if="rows.length > 0" :data="rows" row-key="id">
      <ElTableColumn label="To" min-width="200" show-overflow-tooltip>
        <template #default="{ row }"><AddressText :address="row.recipient" /></template>
      </ElTableColumn>
      <ElTableColumn prop="what" label="Message" min-width="150" />
      <ElTableColumn prop="listName" label="List" min-width="130" />
      <ElTableColumn prop="at" label="When" min-width="120" />
      <ElTableColumn prop="said" label="What the server said" min-width="220" show-overflow-tooltip />
      <ElTableColumn v-if="state === 'waiting' || state === 'refused'" label="" width="110">
        <template #default="{ row }">
          <Changes>
            <ElButton link :aria-label="`Try now: the mail to ${row.recipient}`" @click="again(row.id)"
              >Try now</ElButton
            >
          </Changes>
        </template>
      </ElTableColumn>
    </ElTable>
  </section>
</template>

<style scoped>
.queue {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-3);
}
.days {
  display: grid;
  gap: 2px;
  max-width: 420px;
}
</style>

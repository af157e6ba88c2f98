<script setup lang="ts">
import type { MailOnList } from '#core/api'
import { ElButton, ElEmpty, ElSkeleton, ElTable, ElTableColumn } from 'element-plus'
import { useIntervalFn } from '@vueuse/core'
import { computed, shallowRef, watch } from 'vue'
import type { ListId } from '#core/ids'
import { mailNames } from '#core/mail'
import { clientFor } from '../client'
import { shownMoment } from '../controls'
import { useWorkspace } from '../data'
import { useReceiver } from '../sync'

/** Each mail with what became of it, and why. */
export type MailQueueState = 'waiting' | 'sent' | 'refused' | 'dropped'
const receiver = useReceiver()
const workspace = useWorkspace()
const { state } = defineProps<{ state: MailQueueState }>()
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
    <ElTable v-else :data="rows" row-key="id">
      <ElTableColumn prop="recipient" label="To" min-width="200" show-overflow-tooltip />
      <ElTableColumn prop="what" label="Message" min-width="150" />
      <ElTableColumn prop="listName" label="List" min-width="130" />
      <ElTableColumn prop="at" label="When" min-width="120" />
      <ElTableColumn prop="said" label="What the server said" min-width="220" show-overflow-tooltip />
      <ElTableColumn v-if="state === 'waiting' || state === 'refused'" label="" width="110">
        <template #default="{ row }">
          <ElButton link :aria-label="`Try now: the mail to ${row.recipient}`" @click="again(row.id)">Try now</ElButton>
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
</style>

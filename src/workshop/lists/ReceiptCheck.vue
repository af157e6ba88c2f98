<script setup lang="ts">
import { ShieldCheck } from '@lucide/vue'
import { ElButton } from 'element-plus'
import { shallowRef } from 'vue'
import { shownMoment } from '../controls'
import { useWorkspace } from '../data'
import { useReceiver } from '../sync'
import { useLongWork } from './long-work'
import { checkReceipts, type ReceiptCheck } from './receipt-check'
import WorkProgress from './WorkProgress.vue'

/** Whether all receipts are as they were written, looked at when its owner asks. */
const receiver = useReceiver()
const workspace = useWorkspace()
const work = useLongWork()
const outcome = shallowRef<ReceiptCheck | null>(null)

async function check(): Promise<void> {
  const pairing = receiver.pairing
  if (pairing === null) return
  outcome.value = await work.run('Checking every receipt', (following) =>
    checkReceipts(
      { ...pairing },
      workspace.lists.map(({ id }) => id),
      following,
    ),
  )
}
</script>

<template>
  <div class="check">
    <ElButton :disabled="receiver.pairing === null || work.isWorking.value" @click="check"
      ><ShieldCheck :size="16" /><span>See that no receipt was changed</span></ElButton
    >
    <WorkProgress :work="work" />
    <p v-if="outcome" role="status" :class="{ problem: outcome.state !== 'whole' }">
      <template v-if="outcome.state === 'whole'"
        >All {{ outcome.receipts.toLocaleString('en') }} receipts are as they were written, and everybody is kept as
        they tell.</template
      >
      <template v-else-if="outcome.state === 'changed'"
        >Number {{ outcome.n }} in the record of all that happened, of {{ shownMoment(outcome.at) }}, is not as it was
        written: it was changed afterwards, or one before it was taken out.</template
      >
      <template v-else-if="outcome.state === 'row-changed'"
        >{{ outcome.email === '' ? 'Somebody' : outcome.email }} on “{{ workspace.list(outcome.list)?.name }}” is kept
        otherwise than the journal tells: the store was changed by something else than Ask Box.</template
      >
      <template v-else
        >The receiver’s record of all that happened was written anew: it is not the one that this workshop has
        seen.</template
      >
    </p>
  </div>
</template>

<style scoped>
.check {
  display: flex;
  flex-wrap: wrap;
  gap: var(--gap-3) var(--gap-4);
  align-items: center;
  margin-block-start: var(--gap-5);
}
</style>

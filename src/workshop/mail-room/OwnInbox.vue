<script setup lang="ts">
import type { OwnInbox } from '#core/api'
import { ElButton, ElInput } from 'element-plus'
import { computed, onMounted, ref, shallowRef } from 'vue'
import type { ListId } from '#core/ids'
import { clientFor } from '../client'
import Labelled from '../controls/Labelled.vue'
import { shownMoment } from '../controls'
import { useReceiver } from '../sync'
import { useDelivery } from './delivery'

/**
 * The one thing that no rehearsal sees: whether mail reaches an inbox of the owner's own. A code goes there as the list's
 * mail does, and is typed in here.
 */
const { list } = defineProps<{ list: ListId }>()
const emit = defineEmits<{ proven: [isProven: boolean] }>()

const receiver = useReceiver()
const delivery = useDelivery()
const client = computed(() => (receiver.pairing === null ? null : clientFor(receiver.pairing)))
const inbox = shallowRef<OwnInbox | null>(null)
const to = ref('')
const code = ref('')
const said = ref<{ ok: boolean; said: string } | null>(null)
const isBusy = ref(false)
const isProven = computed(() => inbox.value !== null && inbox.value.arrivedAt !== null && inbox.value.isAsThen)
const waits = computed(() => inbox.value !== null && inbox.value.arrivedAt === null)

async function look(): Promise<void> {
  const state = await client.value?.mailState().catch(() => null)
  inbox.value = state?.ownInboxes.find((one) => one.list === list) ?? null
  to.value ||= inbox.value?.to ?? ''
  emit('proven', isProven.value)
  void delivery.look()
}
onMounted(look)

async function act(ask: () => Promise<{ ok: boolean; said: string }>): Promise<void> {
  isBusy.value = true
  try {
    said.value = await ask()
    await look()
  } catch (error) {
    said.value = { ok: false, said: error instanceof Error ? error.message : String(error) }
  } finally {
    isBusy.value = false
  }
}
const send = () =>
  act(async () => {
    code.value = ''
    const answer = await client.value!.sendCode(list, to.value)
    return answer.ok ? { ok: true, said: 'On its way. Open that inbox and type the code in here.' } : answer
  })
const typeIn = () => act(() => client.value!.typeCode(list, code.value))
</script>

<template>
  <fieldset class="group">
    <legend>An inbox of your own</legend>
    <p v-if="isProven" class="small arrived" role="status">
      Mail arrives: a code was read at {{ inbox!.to }} and typed in,
      {{ shownMoment(new Date(inbox!.arrivedAt!).toISOString()) }}.
    </p>
    <p v-else-if="inbox?.arrivedAt" class="small">
      It arrived at {{ inbox.to }}, {{ shownMoment(new Date(inbox.arrivedAt).toISOString()) }}; sender or mail server
      have changed since.
    </p>
    <p v-else class="quiet small">
      No rehearsal can see whether mail reaches real inboxes. Send yourself a code, and type it in.
    </p>
    <form novalidate class="beside" @submit.prevent="send">
      <ElInput v-model="to" type="email" placeholder="you@your-site.example" aria-label="Send a code to" />
      <ElButton native-type="submit" :loading="isBusy" :disabled="to.trim() === ''">Send a code</ElButton>
    </form>
    <form novalidate v-if="waits" class="beside" @submit.prevent="typeIn">
      <Labelled label="The code that you read there">
        <ElInput v-model="code" inputmode="numeric" autocomplete="one-time-code" :maxlength="12" />
      </Labelled>
      <ElButton native-type="submit" class="end" :disabled="code.trim() === ''">It arrived</ElButton>
    </form>
    <p v-if="said && !isProven" class="small" :class="{ problem: !said.ok }" role="status">{{ said.said }}</p>
  </fieldset>
</template>

<style scoped>
.end {
  align-self: end;
}
.arrived {
  color: var(--moss);
}
</style>

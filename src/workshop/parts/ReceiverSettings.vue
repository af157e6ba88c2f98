<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed, ref } from 'vue'
import { database, emptyDatabase } from '../db'
import { refillReceiver, takeReceiversHistory } from '../exchange'
import { useNotices } from '../stores/notices'
import { useReceiver } from '../stores/receiver'
import { downloadBackup } from './backup'

const receiver = useReceiver()
const notices = useNotices()
const progress = ref<number | null>(null)
const stop = ref<AbortController | null>(null)
const isSure = ref<'empty' | 'take' | 'unpair' | null>(null)
const exchange = computed(() => receiver.exchange)

async function refill(): Promise<void> {
  if (receiver.pairing === null) return
  stop.value = new AbortController()
  progress.value = 0
  try {
    await refillReceiver({ ...receiver.pairing }, (share) => (progress.value = share), stop.value.signal)
    notices.done(stop.value.signal.aborted ? 'Stopped. Filling can go on from here at any time.' : 'The receiver has everything that is here.')
  } catch (error) {
    notices.problem(`The receiver was not filled: ${error instanceof Error ? error.message : 'no answer'}`)
  } finally {
    progress.value = null
    receiver.reconnect()
  }
}

async function empty(): Promise<void> {
  isSure.value = null
  await downloadBackup()
  await emptyDatabase()
  notices.done('This workshop is emptied; a workspace file was saved first. What the receiver holds comes back now.')
  receiver.reconnect()
}

async function take(): Promise<void> {
  isSure.value = null
  await downloadBackup()
  await takeReceiversHistory()
  receiver.reconnect()
}

async function unpair(): Promise<void> {
  isSure.value = null
  await database.settings.bulkDelete(['pairing', 'exchange', 'publicUrl'])
}
</script>

<template>
  <section class="group" aria-labelledby="receiver-title">
    <h2 id="receiver-title">Receiver</h2>
    <dl>
      <dt>State</dt>
      <dd>{{ receiver.words }}<template v-if="exchange?.state === 'offline'">. Changes are kept here and sent when it answers.</template></dd>
      <dt>Address</dt>
      <dd>{{ receiver.pairing?.receiver }}</dd>
      <dt>Visitors reach it at</dt>
      <dd>{{ receiver.publicUrl ?? 'not known yet' }}</dd>
      <dt>Journal</dt>
      <dd>{{ receiver.journal?.cursor ?? 0 }} entries here</dd>
    </dl>

    <div v-if="exchange?.state === 'empty-receiver'" class="sheet ask">
      <p>This receiver lacks {{ exchange.missing }} entries of the journal that this workshop has, as a new one does. It can be filled from here.</p>
      <progress v-if="progress !== null" :value="progress" aria-label="Filling the receiver" />
      <div class="row">
        <ElButton v-if="progress === null" type="primary" @click="refill">Fill the receiver from here</ElButton>
        <ElButton v-else @click="stop?.abort()">Stop</ElButton>
      </div>
    </div>
    <div v-if="exchange?.state === 'other-journal'" class="sheet ask">
      <p>
        This receiver keeps the history of another workshop ({{ exchange.entries }} entries). Nothing is exchanged, so nothing can mix. Pair with the
        right receiver, or take over what this one holds: your present data is saved as a file first, then replaced.
      </p>
      <div class="row"><ElButton @click="isSure = 'take'">Take over the receiver’s data</ElButton></div>
    </div>
    <p v-if="exchange?.state === 'key-refused'" class="problem">The receiver does not accept the key. Pair again with the address that it prints when it starts.</p>

    <div class="row">
      <ElButton @click="isSure = 'unpair'">Unpair</ElButton>
      <ElButton @click="isSure = 'empty'">Empty this workshop</ElButton>
    </div>
    <div v-if="isSure" class="sheet ask" role="alert">
      <p v-if="isSure === 'unpair'">This browser forgets the receiver and its key. Your data stays here.</p>
      <p v-else-if="isSure === 'empty'">Everything in this browser is cleared, after a workspace file was saved. Published forms and all people come back from the receiver; drafts that were never published come back only from the file.</p>
      <p v-else>Everything in this browser is replaced by what the receiver holds, after a workspace file was saved.</p>
      <div class="row">
        <ElButton v-if="isSure === 'unpair'" type="primary" @click="unpair">Unpair</ElButton>
        <ElButton v-else-if="isSure === 'empty'" type="primary" @click="empty">Save a file and empty</ElButton>
        <ElButton v-else type="primary" @click="take">Save a file and take over</ElButton>
        <ElButton text @click="isSure = null">Cancel</ElButton>
      </div>
    </div>
  </section>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: minmax(min-content, max-content) minmax(0, 1fr);
  gap: var(--gap-1) var(--gap-5);
  margin: 0;
}
dt {
  color: var(--quiet);
}
dd {
  margin: 0;
  overflow-wrap: anywhere;
}
.ask {
  display: grid;
  gap: var(--gap-3);
  padding: var(--gap-4);
}
progress {
  width: 100%;
  accent-color: var(--moss);
}
</style>

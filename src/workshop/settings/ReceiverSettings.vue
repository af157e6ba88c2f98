<script setup lang="ts">
import { ElButton, ElCollapse, ElCollapseItem, ElProgress } from 'element-plus'
import { computed, ref } from 'vue'
import { database, emptyDatabase } from '../data'
import { bringUpToDate, takeReceiversHistory, useReceiver, useWaiting } from '../sync'
import { saveOnlineGuide } from '../sites/online-guide'
import { useNotices } from '../notices'
import FillReceiver from './FillReceiver.vue'
import { useFilling } from './filling'
import ReceiverClock from './ReceiverClock.vue'
import SaveFile from './SaveFile.vue'

const receiver = useReceiver()
const waiting = useWaiting()
const notices = useNotices()
const { progress, fill, stop } = useFilling()
const isSure = ref<'empty' | 'take' | 'unpair' | null>(null)
const isSaved = ref(false)
const sync = computed(() => receiver.sync)

function ask(what: typeof isSure.value): void {
  isSure.value = what
  isSaved.value = false
}

async function empty(): Promise<void> {
  isSure.value = null
  await emptyDatabase()
  notices.done('This workshop is emptied. What the receiver holds comes back now.')
  receiver.reconnect()
}

async function take(): Promise<void> {
  isSure.value = null
  await takeReceiversHistory()
  receiver.reconnect()
}

async function unpair(): Promise<void> {
  isSure.value = null
  await database.settings.bulkDelete(['pairing', 'sync', 'publicUrl'])
}
</script>

<template>
  <section id="online" class="group" aria-labelledby="receiver-title">
    <h2 id="receiver-title">How visitors reach it</h2>
    <p>
      Sign-ups are taken in, and mail is sent, by the part of Ask Box that is called the receiver: it runs on a computer
      of yours, or of whoever looks after it. This browser is connected with it.
    </p>
    <dl>
      <dt>State</dt>
      <dd>
        {{ receiver.words
        }}<template v-if="sync?.state === 'offline'">. Changes are kept here and sent when it answers.</template>
      </dd>
      <dt>Waiting to be sent</dt>
      <dd>{{ waiting.count === 0 ? 'nothing' : waiting.count === 1 ? '1 change' : `${waiting.count} changes` }}</dd>
      <dt>Address</dt>
      <dd>{{ receiver.pairing?.receiver }}</dd>
      <dt>Visitors reach it at</dt>
      <dd>{{ receiver.publicUrl ?? 'not known yet' }}</dd>
    </dl>

    <ElCollapse>
      <ElCollapseItem title="For whoever looks after the server">
        <p>
          The journal has {{ receiver.journal?.cursor ?? 0 }} entries here. What can be set stands in
          docs/going-online.md: where data lies (<code>ASKBOX_DATA</code>), how visitors reach it
          (<code>ASKBOX_PUBLIC_URL</code>), the mail server (<code>SMTP_URL</code>).
        </p>
        <ElButton size="small" @click="saveOnlineGuide">Save how Ask Box goes online</ElButton>
      </ElCollapseItem>
    </ElCollapse>

    <ReceiverClock />

    <FillReceiver />
    <div v-if="progress !== null" class="sheet ask">
      <ElProgress :percentage="Math.round(progress * 100)" aria-label="Filling the receiver" />
      <div class="row"><ElButton @click="stop">Stop</ElButton></div>
    </div>
    <div v-else-if="sync?.state === 'older-receiver'" class="sheet ask" role="alert">
      <p>
        <b>The receiver was put back to an older copy of itself.</b> It has {{ sync.entries }} events and lacks what
        happened after that copy was made; this workshop has {{ receiver.journal?.cursor ?? 0 }}. Nothing is sent or
        taken until you choose.
      </p>
      <p>Bringing it up to date gives it what it lost, from here, and keeps what it took in since.</p>
      <div class="row">
        <ElButton type="primary" @click="fill(bringUpToDate)">Bring the receiver up to date</ElButton>
        <ElButton @click="ask('take')">Take over what it holds</ElButton>
      </div>
    </div>
    <div v-else-if="sync?.state === 'other-journal'" class="sheet ask">
      <p>
        This receiver keeps the history of another workshop ({{ sync.entries }} entries). Nothing is sent or taken, so
        nothing can mix. Connect with the right one, or take over what this one holds in the place of what is here.
      </p>
      <div class="row"><ElButton @click="ask('take')">Take over the receiver’s data</ElButton></div>
    </div>
    <p v-if="sync?.state === 'reload-needed'" class="problem">
      The receiver is newer than this page and tells of things that it does not know. Reload the page; nothing is lost.
    </p>
    <p v-if="sync?.state === 'key-refused'" class="problem">
      The receiver does not accept the key. Open the address again that it prints when it starts.
    </p>

    <p class="quiet small">Both are safe to press: each says first what goes and what stays, and asks.</p>
    <div class="row">
      <ElButton @click="ask('unpair')">Disconnect this browser</ElButton>
      <ElButton @click="ask('empty')">Empty this browser</ElButton>
    </div>
    <div v-if="isSure" class="sheet ask" role="alert">
      <p v-if="isSure === 'unpair'">This browser forgets the receiver and its key. Your data stays here.</p>
      <p v-else-if="isSure === 'empty'">
        Everything in this browser is cleared. All that the receiver knows comes back from there, drafts as
        well<template v-if="waiting.count > 0"
          >; the {{ waiting.count }} changes that still wait to be sent do not</template
        >.
      </p>
      <p v-else>Everything in this browser is replaced by what the receiver holds.</p>
      <template v-if="isSure !== 'unpair' && !isSaved">
        <p>Save what is here first:</p>
        <SaveFile @saved="isSaved = true" />
      </template>
      <div class="row">
        <ElButton v-if="isSure === 'unpair'" type="primary" @click="unpair">Disconnect it</ElButton>
        <ElButton v-else-if="!isSaved" text @click="isSaved = true">Go on without a file</ElButton>
        <ElButton v-else-if="isSure === 'empty'" type="primary" @click="empty">Empty it now</ElButton>
        <ElButton v-else type="primary" @click="take">Take over now</ElButton>
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
</style>

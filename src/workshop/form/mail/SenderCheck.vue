<script setup lang="ts">
import type { AwaitedSender, SenderFinding } from '#core/api'
import { ElButton } from 'element-plus'
import { useIntervalFn } from '@vueuse/core'
import { computed, shallowRef, watch } from 'vue'
import { clientFor } from '../../client'
import { shownMoment } from '../../controls'
import Labelled from '../../controls/Labelled.vue'
import CopiedLine from '../../controls/CopiedLine.vue'
import { useReceiver } from '../../sync'

/** What receiving servers will make of a sender, what its domain lacks, ready to paste, and whether that is there by now. */
const { sender, bounce } = defineProps<{ sender: string; bounce: string }>()

const receiver = useReceiver()
const client = computed(() => (receiver.pairing === null ? null : clientFor(receiver.pairing)))
const findings = shallowRef<SenderFinding[] | null>(null)
const awaited = shallowRef<AwaitedSender | null>(null)
const problem = shallowRef('')
const isBusy = shallowRef(false)
const LOOK_MS = 10_000

async function during(work: () => Promise<void>): Promise<void> {
  isBusy.value = true
  problem.value = ''
  try {
    await work()
  } catch (error) {
    problem.value = error instanceof Error ? error.message : String(error)
  } finally {
    isBusy.value = false
  }
}

const ours = (all: AwaitedSender[]) => all.find((one) => one.sender === sender && one.bounce === bounce) ?? null

async function check(): Promise<void> {
  if (client.value === null) return
  findings.value = (await client.value.checkSender(sender, bounce)).findings
}
async function setLooking(look: boolean): Promise<void> {
  if (client.value === null) return
  awaited.value = ours((await client.value.awaitRecords(sender, bounce, look)).awaited)
}

async function readAwaited(): Promise<void> {
  if (client.value === null) return
  const before = awaited.value
  const now = ours((await client.value.mailState()).awaited)
  awaited.value = now
  // What was found then is shown as it is now.
  if (now !== null && (findings.value === null || now.lookedAt !== before?.lookedAt)) await check()
}
watch(
  [() => sender, () => bounce],
  () => {
    findings.value = null
    void readAwaited().catch(() => null)
  },
  { immediate: true },
)
useIntervalFn(() => {
  if (awaited.value !== null && awaited.value.thereAt === null) void readAwaited().catch(() => null)
}, LOOK_MS)

const missing = computed(() => findings.value?.filter(({ proposed }) => proposed !== null) ?? [])
const verdictWords = { good: 'Good', look: 'Look at this', unknown: 'Not known' }
const aboutWords = {
  'free-mail': 'Sender',
  'return-path': 'Bounces',
  spf: 'SPF',
  dkim: 'Signature (DKIM)',
  dmarc: 'DMARC',
}
const at = (milliseconds: number) => shownMoment(new Date(milliseconds).toISOString())
</script>

<template>
  <ElButton class="start" :loading="isBusy" @click="during(check)">Check this sender</ElButton>
  <p v-if="problem" class="problem small" role="alert">{{ problem }}</p>
  <template v-if="findings">
    <ul class="findings">
      <li v-for="one in findings" :key="one.about" :class="one.verdict">
        <b>{{ aboutWords[one.about] }}: {{ verdictWords[one.verdict] }}.</b> {{ one.says }}
        <RouterLink
          v-if="one.about === 'dkim' && one.verdict !== 'good' && one.proposed === null"
          :to="{ name: 'mail-room', query: { view: 'server' } }"
        >
          To the signature
        </RouterLink>
        <code v-if="one.found">{{ one.found }}</code>
        <div v-if="one.proposed" class="proposed">
          <p>
            {{ one.proposed.replaces.length > 0 ? 'Put this in its place' : 'Add this' }} where your domain’s records
            are kept, type TXT:
          </p>
          <Labelled label="Name"
            ><CopiedLine :value="one.proposed.name" :what="`name of the ${aboutWords[one.about]} record`"
          /></Labelled>
          <Labelled label="Value"
            ><CopiedLine :value="one.proposed.value" :what="`value of the ${aboutWords[one.about]} record`"
          /></Labelled>
        </div>
      </li>
    </ul>
    <div class="looking" role="status">
      <template v-if="awaited?.thereAt">
        <p><b>All of it is right</b>, seen {{ at(awaited.thereAt) }}.</p>
      </template>
      <template v-else-if="awaited">
        <p>
          Not right yet: {{ awaited.missing.map((kind) => aboutWords[kind]).join(', ') }}.
          {{ awaited.lookedAt ? `Looked up ${at(awaited.lookedAt)}; every five minutes again.` : '' }} Name servers
          often keep an old answer for an hour.
        </p>
        <ElButton link type="primary" @click="during(() => setLooking(false))">Look no more</ElButton>
      </template>
      <ElButton v-else-if="missing.length > 0" @click="during(() => setLooking(true))">
        Look it up until it is there
      </ElButton>
    </div>
  </template>
</template>

<style scoped>
.start {
  justify-self: start;
}
.findings {
  display: grid;
  gap: var(--gap-2);
  margin: 0;
  padding: 0;
  list-style: none;
  font-size: var(--text-s);
}
.findings li {
  padding-inline-start: var(--gap-2);
  border-inline-start: 3px solid var(--edge);
}
.findings .look {
  border-color: var(--raspberry);
}
.findings .good {
  border-color: var(--moss);
}
code {
  display: block;
  overflow-wrap: anywhere;
}
.proposed,
.looking {
  display: grid;
  gap: var(--gap-2);
  justify-items: start;
}
.proposed {
  justify-items: stretch;
  margin-top: var(--gap-2);
}
p {
  margin: 0;
  font-size: var(--text-s);
}
</style>

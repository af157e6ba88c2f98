<script setup lang="ts">
import { Check, CircleAlert, CircleHelp } from '@lucide/vue'
import { ElButton, ElInput } from 'element-plus'
import { computed, ref, shallowRef } from 'vue'
import { RouterLink } from 'vue-router'
import type { LetterTrialStep } from '#core/api'
import type { LetterContent } from '#core/letter'
import type { List } from '#core/list'
import type { MailSettings } from '#core/mail'
import { clientFor } from '../client'
import { shownMoment } from '../controls'
import { useReceiver } from '../sync'
import type { LetterLook } from './letter-look'
import LetterPreview from './LetterPreview.vue'

/** All that is looked at before a letter goes: who gets it, what is wrong with it, and trials of it. */
const { content, look, list, settings, beforeTrial } = defineProps<{
  content: LetterContent
  look: LetterLook
  list: List
  settings: MailSettings
  /** Has the receiver have all that a trial needs. */
  beforeTrial: () => Promise<unknown>
}>()
const emit = defineEmits<{ block: [id: string] }>()
const receiver = useReceiver()
const number = (count: number) => count.toLocaleString('en-GB')

const readers = computed(() => look.readers.value)
const out = computed(() => {
  const of = readers.value
  if (of === null) return []
  return [
    { count: of.again, says: 'are on several of its lists and get it once' },
    { count: of.filtered, says: 'are left out by the filter' },
    { count: of.waiting, says: 'have not confirmed yet' },
    { count: of.left, says: 'left' },
    { count: of.bounced, says: 'take no mail: it came back' },
  ].filter(({ count }) => count > 0)
})
/** Common practice: shared hosting sends some 200 an hour, and above some 2,000 readers a mail service is needed. */
const isManyForHosting = computed(() => (readers.value?.gets ?? 0) > 2_000 && (readers.value?.pace.hour ?? 0) <= 200)

const to = ref('')
const said = ref<{ ok: boolean; said: string } | null>(null)
const isSending = ref(false)
async function sendTest(): Promise<void> {
  if (receiver.pairing === null) return
  isSending.value = true
  try {
    await beforeTrial()
    said.value = await clientFor({ ...receiver.pairing }).sendTestLetter(to.value, content)
  } catch (error) {
    said.value = { ok: false, said: error instanceof Error ? error.message : String(error) }
  } finally {
    isSending.value = false
  }
}

const steps = shallowRef<LetterTrialStep[] | null>(null)
const trialProblem = ref('')
const isTrying = ref(false)
async function tryIt(): Promise<void> {
  if (receiver.pairing === null) return
  isTrying.value = true
  steps.value = null
  trialProblem.value = ''
  try {
    await beforeTrial()
    steps.value = (await clientFor({ ...receiver.pairing }).tryLetter(content)).steps
  } catch (error) {
    trialProblem.value = error instanceof Error ? error.message : String(error)
  } finally {
    isTrying.value = false
  }
}
const shown = ref<string | null>(null)
const example = computed(() => readers.value?.examples.find(({ member }) => member === shown.value) ?? null)
</script>

<template>
  <div class="station">
    <div class="work">
      <section class="sheet part" aria-labelledby="who-gets-it">
        <h2 id="who-gets-it">Who gets it</h2>
        <p v-if="readers === null" class="quiet">{{ look.problem.value || 'Counting …' }}</p>
        <template v-else>
          <p class="most">
            <b>{{ number(readers.gets) }}</b> {{ readers.gets === 1 ? 'person' : 'people' }} would get it now.
          </p>
          <ul v-if="out.length > 0" class="quiet small plain">
            <li v-for="one in out" :key="one.says">{{ number(one.count) }} {{ one.says }}.</li>
          </ul>
          <p v-if="readers.isStandIn">All of it goes to the stand-in mailbox, at once.</p>
          <p v-else-if="readers.lastOutAt !== null && readers.gets > 0">
            The last one leaves {{ shownMoment(new Date(readers.lastOutAt).toISOString()) }}, at most
            {{ number(Math.min(readers.pace.minute, readers.pace.hour)) }} a minute and
            {{ number(readers.pace.hour) }} an hour.
            <RouterLink :to="{ name: 'mail-room', query: { view: 'server' } }">Change the pace</RouterLink>
          </p>
          <p v-else-if="readers.gets > 0" class="problem">No mail goes now: see the Mail room.</p>
          <p v-if="isManyForHosting" class="small">
            Above some 2,000 readers, a mail service takes over from a host’s own server (common practice).
          </p>
          <p v-if="readers.gets > 0 && readers.withoutZone > 0" class="quiet small">
            Of {{ number(readers.withoutZone) }} the time zone is not known.
          </p>
        </template>
      </section>

      <section class="sheet part" aria-labelledby="looked-at">
        <h2 id="looked-at">Looked at</h2>
        <ul class="findings">
          <li
            v-for="finding in look.findings.value"
            :key="finding.code + (finding.block ?? '')"
            :class="finding.weight"
          >
            <CircleAlert :size="18" aria-hidden="true" />
            <span
              ><b v-if="finding.weight === 'stops'">{{ finding.message }}</b
              ><template v-else>{{ finding.message }}</template> <span class="quiet small">{{ finding.reason }}</span>
              <ElButton
                v-if="finding.block && finding.block !== 'subject'"
                link
                type="primary"
                size="small"
                @click="emit('block', finding.block)"
                >Show it</ElButton
              ></span
            >
          </li>
          <li v-for="link in look.links.value?.filter(({ ok }) => !ok) ?? []" :key="link.address" class="look">
            <CircleAlert :size="18" aria-hidden="true" />
            <span
              >A link does not lead anywhere now: <code>{{ link.address }}</code>
              <span class="quiet small">{{ link.said }}</span>
              <ElButton link type="primary" size="small" @click="emit('block', link.block)">Show it</ElButton></span
            >
          </li>
          <li
            v-for="finding in look.sender.value?.filter(({ verdict }) => verdict === 'look') ?? []"
            :key="finding.about"
            class="look"
          >
            <CircleAlert :size="18" aria-hidden="true" />
            <span
              >{{ finding.says }} <span class="quiet small">{{ finding.found }}</span></span
            >
          </li>
          <li
            v-if="look.links.value && look.links.value.length > 0 && look.links.value.every(({ ok }) => ok)"
            class="good"
          >
            <Check :size="18" aria-hidden="true" />
            <span>{{
              look.links.value.length === 1
                ? 'Its link leads somewhere.'
                : `All ${look.links.value.length} links lead somewhere.`
            }}</span>
          </li>
          <li v-if="look.findings.value.length === 0" class="good">
            <Check :size="18" aria-hidden="true" /><span>Nothing is wrong with its words, pictures and colours.</span>
          </li>
          <li v-if="look.sender.value?.some(({ verdict }) => verdict === 'unknown')" class="unknown">
            <CircleHelp :size="18" aria-hidden="true" />
            <span
              >Of its sender’s domain not all could be seen.
              <RouterLink :to="{ name: 'mail-room', query: { view: 'server' } }"
                >What the Mail room knows</RouterLink
              ></span
            >
          </li>
        </ul>
      </section>

      <section v-if="readers && readers.examples.length > 0" class="sheet part" aria-labelledby="as-they-get-it">
        <h2 id="as-they-get-it">As three of them get it</h2>
        <div class="row">
          <ElButton
            v-for="one in readers.examples"
            :key="one.member"
            :aria-pressed="shown === one.member"
            @click="shown = shown === one.member ? null : one.member"
            >{{ one.firstName || one.email }}</ElButton
          >
        </div>
        <LetterPreview
          v-if="example"
          :key="example.member"
          :body="content"
          :list="list"
          :settings="settings"
          :first-name="example.firstName"
        />
      </section>
    </div>

    <div class="controls">
      <fieldset class="group">
        <legend>Send it to yourself</legend>
        <form novalidate class="beside" @submit.prevent="sendTest">
          <ElInput v-model="to" type="email" placeholder="you@your-site.example" aria-label="Send a test to" />
          <ElButton native-type="submit" :loading="isSending">Send a test</ElButton>
        </form>
        <p v-if="said" class="small" :class="{ problem: !said.ok }" role="status">
          {{ said.ok ? 'The mail server took it: look in the inbox.' : `Not sent. ${said.said}` }}
        </p>
      </fieldset>
      <fieldset class="group">
        <legend>A made-up reader</legend>
        <p class="small quiet">
          Somebody invented gets it: the mail is read, its links are followed, and they leave by one press. No real
          person sees any of it.
        </p>
        <ElButton class="start" :loading="isTrying" @click="tryIt">Try it</ElButton>
        <p v-if="trialProblem" class="problem small" role="alert">{{ trialProblem }}</p>
        <ol v-if="steps" class="findings" aria-label="What the made-up reader met">
          <li v-for="(step, at) in steps" :key="at" :class="step.ok ? 'good' : 'stops'">
            <component :is="step.ok ? Check : CircleAlert" :size="18" aria-hidden="true" />
            <span
              >{{ step.name }}{{ step.ok ? '' : ': this failed' }}
              <span class="quiet small">{{ step.said }}</span></span
            >
          </li>
        </ol>
      </fieldset>
    </div>
  </div>
</template>

<style scoped>
.part {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-3);
  padding: var(--gap-4);
}
.most {
  font-size: var(--text-l);
}
.plain,
.findings {
  display: grid;
  gap: var(--gap-2);
  margin: 0;
  padding: 0;
  list-style: none;
}
.findings li {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  gap: var(--gap-2);
  overflow-wrap: anywhere;
}
.stops svg {
  color: var(--raspberry);
}
.look svg,
.unknown svg {
  color: var(--quiet);
}
.good svg {
  color: var(--moss);
}
.start {
  justify-self: start;
}
</style>

<script setup lang="ts">
import type { MailState } from '#core/api'
import { ElButton, ElEmpty, ElProgress } from 'element-plus'
import { useIntervalFn } from '@vueuse/core'
import { computed, defineAsyncComponent, ref, shallowRef } from 'vue'
import { useRoute } from 'vue-router'
import { clientFor } from '../client'
import { shownMoment } from '../controls'
import Changes from '../controls/Changes.vue'
import Views from '../controls/Views.vue'
import { isDemo } from '../data'
import { useReceiver } from '../sync'
import { useNotices } from '../notices'
import MailQueue, { type MailQueueState } from './MailQueue.vue'
import Page from '../controls/Page.vue'

/** What mail waits, was sent or refused, by which server it goes, and, where one runs, the stand-in mailbox. */
const MailServer = defineAsyncComponent(() => import('./MailServer.vue'))
const Boxes = defineAsyncComponent(() => import('./Boxes.vue'))
const receiver = useReceiver()
const notices = useNotices()
const state = shallowRef<MailState | null>(null)
const problem = ref('')
type Place = MailQueueState | 'boxes' | 'server'
const route = useRoute()
const place = ref<Place>(route.query.view === 'server' ? 'server' : 'waiting')
const LOOK_MS = 2_000
let isFirst = true

/** What somebody came for: what waits, else what was refused, else where made-up mail arrives. */
function placeOf({ counts, hasMailbox }: MailState): Place {
  if (counts.waiting > 0) return 'waiting'
  if (counts.refused > 0) return 'refused'
  return hasMailbox ? 'boxes' : 'sent'
}

async function look(): Promise<void> {
  if (receiver.pairing === null) return
  try {
    state.value = await clientFor(receiver.pairing).mailState()
    problem.value = ''
    if (isFirst && place.value !== 'server') place.value = placeOf(state.value)
    isFirst = false
  } catch (error) {
    problem.value = error instanceof Error ? error.message : String(error)
  }
}
void look()
useIntervalFn(() => void look(), LOOK_MS)

const places = computed((): { value: Place; label: string }[] => [
  { value: 'waiting', label: `Waiting, ${state.value?.counts.waiting ?? 0}` },
  { value: 'refused', label: `Refused, ${state.value?.counts.refused ?? 0}` },
  { value: 'sent', label: `Sent, ${state.value?.counts.sent ?? 0}` },
  { value: 'dropped', label: 'Became needless' },
  ...(state.value?.hasMailbox ? [{ value: 'boxes' as const, label: 'Stand-in mailbox' }] : []),
  { value: 'server', label: 'Mail server' },
])
const share = computed(() => {
  const counts = state.value?.counts
  const all = (counts?.sent ?? 0) + (counts?.waiting ?? 0)
  return all === 0 ? 100 : Math.floor((100 * (counts?.sent ?? 0)) / all)
})

async function toggle(): Promise<void> {
  if (receiver.pairing === null || state.value === null) return
  state.value = await clientFor(receiver.pairing).keepPace(state.value.pace, !state.value.isStopped)
  notices.done(state.value.isStopped ? 'Mail is stopped. What is written waits.' : 'Mail goes on.')
}

async function goOn(): Promise<void> {
  if (receiver.pairing === null) return
  state.value = await clientFor(receiver.pairing).goOnSending()
  notices.done('Mail goes on. Should the server refuse it again, it stops again.')
}

async function putBack(): Promise<void> {
  if (receiver.pairing === null) return
  const { count, mail } = await clientFor(receiver.pairing).putBackMarked()
  state.value = mail
  notices.done(`${count === 1 ? '1 person is' : `${count} people are`} back as before.`)
}
</script>

<template>
  <Page class="mail-room" title="Mail room">
    <template #actions>
      <ElButton v-if="state?.server" @click="toggle">{{ state.isStopped ? 'Let mail go' : 'Stop all mail' }}</ElButton>
    </template>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <div v-if="state" class="facts" role="status">
      <p v-if="state.server === null" class="problem">
        No mail server is set up: what lists write waits here until there is one.
      </p>
      <div v-else-if="state.halted" class="sheet told">
        <p>
          <b class="problem">Mail stopped by itself {{ shownMoment(new Date(state.halted.at).toISOString()) }}.</b> The
          mail server refused several people in the same words, so it refuses you and not them.
          {{ state.counts.waiting }} wait, nobody was marked. One mail an hour tries whether it takes mail again.
        </p>
        <p>
          It said: <q>{{ state.halted.said }}</q>
        </p>
        <ElButton type="primary" @click="goOn">Go on now</ElButton>
      </div>
      <p v-else-if="state.isStopped" class="problem">Mail is stopped. {{ state.counts.waiting }} wait.</p>
      <p v-else-if="state.counts.waiting > 0">
        {{ state.counts.waiting }} on the way{{
          state.lastOutAt ? `; the last will be out ${shownMoment(new Date(state.lastOutAt).toISOString())}` : ''
        }}.
      </p>
      <p v-else-if="state.counts.refused > 0">
        Nothing waits.
        <span class="problem"
          >{{ state.counts.refused }} {{ state.counts.refused === 1 ? 'was' : 'were' }} refused in 30 days:</span
        >
        the reason stands beside each.
      </p>
      <p v-else>Nothing waits, and nothing was refused.</p>
      <ElProgress
        v-if="state.counts.waiting > 0 && !state.halted && !state.isStopped"
        :percentage="share"
        aria-label="Sent of all"
      />
    </div>
    <section v-if="state && state.refusing.length > 0" class="sheet told" aria-labelledby="refusing-title">
      <h2 id="refusing-title">Domains that take none of you</h2>
      <ul class="refusing">
        <li v-for="one in state.refusing" :key="one.domain">
          <p>
            <b>{{ one.domain }}</b> takes none of you since {{ shownMoment(new Date(one.at).toISOString()) }}, in these
            words: <q>{{ one.said }}</q>
          </p>
          <p class="quiet">
            Nobody is marked; the others go on.
            {{ one.waiting === 1 ? '1 mail waits' : `${one.waiting} mails wait` }} for it; the next is tried
            {{ shownMoment(new Date(one.nextAt).toISOString()) }}.
          </p>
        </li>
      </ul>
      <ElButton @click="goOn">Try them now</ElButton>
    </section>
    <ul v-if="state && state.awaited.length > 0" class="awaited small" aria-label="Records of senders">
      <li v-for="one in state.awaited" :key="`${one.sender} ${one.bounce}`">
        <template v-if="one.thereAt">
          All that receivers look for is right for <b>{{ one.sender }}</b>, seen
          {{ shownMoment(new Date(one.thereAt).toISOString()) }}.
        </template>
        <template v-else>
          Not right yet for <b>{{ one.sender }}</b>: {{ one.missing.map((kind) => kind.toUpperCase()).join(', ') }}.
          {{ one.lookedAt ? `Looked up ${shownMoment(new Date(one.lookedAt).toISOString())}.` : '' }}
        </template>
      </li>
    </ul>
    <div v-if="state && state.wronglyMarked > 0" class="sheet told">
      <p>
        {{ state.wronglyMarked === 1 ? '1 person is' : `${state.wronglyMarked} people are` }} marked as taking no mail,
        though the server refused you, and not their address. Put back, they are what they were, and who waited gets the
        confirmation again.
      </p>
      <ElButton @click="putBack">Put back {{ state.wronglyMarked === 1 ? 'this person' : 'these people' }}</ElButton>
    </div>
    <ElEmpty
      v-if="isDemo"
      class="sheet"
      description="In the demo no mail is sent. Here stands what waits, was sent or refused, and why."
    />
    <Views v-else v-model="place" label="What of the mail" :views="places">
      <template v-if="state">
        <Boxes v-if="place === 'boxes'" />
        <Changes v-else-if="place === 'server'">
          <MailServer :state="state" @changed="state = $event" />
        </Changes>
        <MailQueue v-else :state="place" :waiting="state?.counts.waiting ?? 0" :pace="state?.pace ?? null" />
      </template>
    </Views>
  </Page>
</template>

<style scoped>
.mail-room {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-4);
}
.facts {
  display: grid;
  gap: var(--gap-2);
}
.told {
  display: grid;
  gap: var(--gap-3);
  justify-items: start;
  padding: var(--gap-4);
  border-inline-start: 3px solid var(--raspberry);
}
.told h2 {
  margin: 0;
  font-size: var(--text-m);
}
.awaited {
  display: grid;
  gap: var(--gap-2);
  margin: 0;
  padding: 0;
  list-style: none;
}
.refusing {
  display: grid;
  gap: var(--gap-3);
  margin: 0;
  padding: 0;
  list-style: none;
  overflow-wrap: anywhere;
}
.told p {
  max-width: 46rem;
  margin: 0;
}
</style>

<script setup lang="ts">
import { CopyPlus } from '@lucide/vue'
import { ElButton, ElDialog, ElProgress, ElSkeleton, ElTable, ElTableColumn } from 'element-plus'
import { computed, ref } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import type { SendingId } from '#core/ids'
import type { LetterBody } from '#core/letter'
import { clientFor } from '../client'
import { shownMoment, shownPage, stacked } from '../controls'
import Changes from '../controls/Changes.vue'
import Page from '../controls/Page.vue'
import { useWorkspace } from '../data'
import { useNotices } from '../notices'
import { useReceiver, useReceiverAnswer } from '../sync'
import { useTitle } from '../title'
import LetterPreview from './LetterPreview.vue'
import { useMailOf } from './mail-of'
import { progressOf, shareWords, stateWords, useSendingWords } from './sendings'
import MendWords from './MendWords.vue'
import { useLetters } from './store'

/** A letter on its way, or one that went: how far it is, what came of it, and what can still be done. */
const props = defineProps<{ id: string }>()
const workspace = useWorkspace()
const letters = useLetters()
const receiver = useReceiver()
const notices = useNotices()
const router = useRouter()
const words = useSendingWords()

const { answer, problem, look } = useReceiverAnswer((client) => client.sending(props.id as SendingId))
const sending = computed(() => answer.value?.sending ?? null)
const title = computed(() => (sending.value === null ? 'Letter' : words.title(sending.value)))
useTitle(() => title.value)
const list = computed(() => (sending.value === null ? null : workspace.list(sending.value.content.lists[0]!)))
const settings = useMailOf(list)
const progress = computed(() => (sending.value === null ? { done: 0, of: 0 } : progressOf(sending.value)))
const share = computed(() =>
  progress.value.of === 0 ? 0 : Math.floor((100 * progress.value.done) / progress.value.of),
)
const isOpen = computed(() => !['done', 'cancelled'].includes(sending.value?.state ?? 'done'))

async function to(what: 'yes' | 'stop' | 'go-on' | 'cancel', said: string): Promise<void> {
  if (receiver.pairing === null) return
  try {
    await clientFor({ ...receiver.pairing }).changeSending(props.id as SendingId, what)
    notices.done(said)
  } catch (error) {
    notices.problem(error instanceof Error ? error.message : String(error))
  }
  isCancelling.value = false
  await look()
}
const isCancelling = ref(false)
const isMending = ref(false)
async function mend(body: LetterBody): Promise<void> {
  if (receiver.pairing === null) return
  await clientFor({ ...receiver.pairing }).mendSending(props.id as SendingId, body)
  isMending.value = false
  notices.done('Who gets it from now on gets the mended words.')
  await look()
}
async function again(): Promise<void> {
  if (sending.value === null) return
  const made = await letters.startFrom(sending.value.content)
  await router.push({ name: 'letter', params: { id: made.id } })
}
const results = computed(() => {
  const one = sending.value
  if (one === null) return []
  const { counts } = one
  return [
    { name: 'Sent', count: counts.sent + counts.bounced, says: '' },
    { name: 'Still to go', count: counts.waiting + counts.queued, says: '' },
    { name: 'Refused', count: counts.refused, says: 'by their mail server' },
    { name: 'Came back', count: counts.bounced, says: 'reported later as not delivered' },
    { name: 'Left because of it', count: counts.left, says: shareWords(counts.left, counts) },
    { name: 'Complained', count: counts.complained, says: 'as far as their services report it' },
    { name: 'Not for them any more', count: counts.dropped, says: 'left, came back or were erased before their turn' },
  ].filter(({ count, name }) => count > 0 || name === 'Sent')
})
</script>

<template>
  <ElSkeleton v-if="sending === null && problem === ''" class="page" :rows="6" animated />
  <Page v-else :title="title">
    <template #above><RouterLink :to="{ name: 'letters' }">Letters</RouterLink></template>
    <template v-if="sending" #below>
      <p class="quiet">To {{ words.listNames(sending) }}; {{ stateWords(sending) }}.</p>
    </template>
    <template v-if="sending" #actions>
      <span class="row">
        <Changes>
          <ElButton text @click="again"><CopyPlus :size="16" /><span>Begin another with it</span></ElButton>
        </Changes>
        <template v-if="isOpen">
          <template v-if="sending.source.kind !== 'series'">
            <Changes>
              <ElButton @click="isMending = true">Mend its words</ElButton>
              <ElButton v-if="sending.state !== 'asks'" @click="isCancelling = true">Cancel the rest</ElButton>
            </Changes>
          </template>
          <RouterLink v-else v-slot="{ navigate }" custom :to="{ name: 'series', params: { id: sending.source.id } }">
            <ElButton @click="navigate()">To its series</ElButton>
          </RouterLink>
          <Changes>
            <ElButton v-if="sending.state === 'asks'" @click="to('cancel', 'The letter does not go.')">No</ElButton>
            <ElButton v-if="sending.state === 'asks'" type="primary" @click="to('yes', 'The letter is on its way.')"
              >Yes, send it</ElButton
            >
            <ElButton v-else-if="sending.state === 'stopped'" type="primary" @click="to('go-on', 'The letter goes on.')"
              >Go on</ElButton
            >
            <ElButton v-else type="primary" @click="to('stop', 'Stopped: nobody more gets it until you go on.')"
              >Stop</ElButton
            >
          </Changes>
        </template>
      </span>
    </template>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <template v-if="sending">
      <div v-if="isOpen && sending.state !== 'asks'" class="way" role="status">
        <ElProgress :percentage="share" aria-label="Gone of all" />
        <p>
          {{ progress.done.toLocaleString('en-GB') }} of {{ progress.of.toLocaleString('en-GB') }}
          <template v-if="answer?.lastOutAt && sending.state === 'going'"
            >; the last one leaves {{ shownMoment(new Date(answer.lastOutAt).toISOString()) }}</template
          >.
        </p>
        <p v-if="sending.said" class="problem">{{ sending.said }}</p>
      </div>
      <p v-if="sending.state === 'asks'" class="told sheet">
        This letter was made of what is new on the site. It goes when you say yes.
      </p>
      <p v-if="sending.mended > 0" class="quiet small">
        Its words were mended {{ sending.mended === 1 ? 'once' : `${sending.mended} times` }} while it went: who got it
        before has the words of then.
      </p>
      <div class="station">
        <div class="work">
          <LetterPreview v-if="list && settings" :body="sending.content" :list="list" :settings="settings" />
        </div>
        <div class="controls">
          <section class="group" aria-labelledby="came-of-it">
            <h2 id="came-of-it">What came of it</h2>
            <dl>
              <template v-for="one in results" :key="one.name">
                <dt>{{ one.name }}</dt>
                <dd>
                  <b>{{ one.count.toLocaleString('en-GB') }}</b> <span class="quiet small">{{ one.says }}</span>
                </dd>
              </template>
            </dl>
          </section>
          <section v-if="sending.content.countsLinks" class="group" aria-labelledby="presses">
            <h2 id="presses">Presses of its links</h2>
            <ElTable :data="answer?.links ?? []" v-bind="stacked" empty-text="It has no links.">
              <ElTableColumn label="Link" prop="address">
                <template #default="{ row }">{{ shownPage(row.address) }}</template>
              </ElTableColumn>
              <ElTableColumn label="Presses" prop="presses" width="90" align="right" />
            </ElTable>
          </section>
          <p v-if="answer?.webCopy && sending.state !== 'asks'" class="small">
            <a :href="answer.webCopy" target="_blank" rel="noreferrer">Its copy in the browser</a>
          </p>
        </div>
      </div>
      <ElDialog v-model="isCancelling" title="Cancel the rest?" width="440px">
        <p>
          {{ (progress.of - progress.done).toLocaleString('en-GB') }} people do not get it. This cannot be taken back;
          to pause, stop it instead.
        </p>
        <template #footer>
          <ElButton @click="isCancelling = false">Keep it</ElButton>
          <ElButton type="danger" @click="to('cancel', 'The rest is cancelled.')">Cancel the rest</ElButton>
        </template>
      </ElDialog>
      <MendWords
        v-if="isMending && list && settings"
        :body="sending.content"
        :list="list"
        :settings="settings"
        :mend="mend"
        @close="isMending = false"
      />
    </template>
  </Page>
</template>

<style scoped>
.way {
  display: grid;
  gap: var(--gap-2);
}
.told {
  padding: var(--gap-4);
}
dl {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  gap: var(--gap-2) var(--gap-4);
  margin: 0;
}
dd {
  margin: 0;
}
</style>

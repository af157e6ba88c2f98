<script setup lang="ts">
import { Pause, Play, RefreshCw, Trash2 } from '@lucide/vue'
import { ElButton, ElSkeleton } from 'element-plus'
import { computed, ref } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import { sameValue } from '#core/json'
import type { FeedId } from '#core/ids'
import { type FeedContent, feedProblem } from '#core/letter'
import { clientFor } from '../client'
import { shownMoment, vHint } from '../controls'
import Changes from '../controls/Changes.vue'
import Page from '../controls/Page.vue'
import { useWorkspace } from '../data'
import { useDocument, useUndoKeys } from '../document'
import Nowhere from '../Nowhere.vue'
import { useNotices } from '../notices'
import { useReceiver, useReceiverAnswer } from '../sync'
import { useTitle } from '../title'
import FeedInHand from './FeedInHand.vue'
import { useMailOf } from './mail-of'
import { useLetters } from './store'

/** A feed of a site in hand: whose posts become letters, when, and what such a letter looks like. */
const props = defineProps<{ id: string }>()
const workspace = useWorkspace()
const letters = useLetters()
const receiver = useReceiver()
const notices = useNotices()
const router = useRouter()

const id = computed(() => props.id as FeedId)
const feed = computed(() => letters.feeds.find((one) => one.id === id.value) ?? null)
const document = useDocument('feed', () => id.value)
useUndoKeys(() => document)
const content = computed(() => document.parts.value?.draft ?? null)
useTitle(() => content.value?.name ?? null)
/** The one whose sender and looks its letters have; while none is chosen, they are shown with those of the first. */
const list = computed(() =>
  content.value === null ? null : (workspace.list(content.value.lists[0]!) ?? workspace.lists[0] ?? null),
)
const settings = useMailOf(list)
const { answer: state, look: lookAgain } = useReceiverAnswer((client) => client.feedState(id.value), 10_000)
const change = (name: string, part: string, recipe: (content: FeedContent) => void) =>
  void document.change(name, part, ({ draft }) => recipe(draft))

const isPublished = computed(
  () => feed.value !== null && content.value !== null && sameValue(content.value, feed.value.published),
)
const isBusy = ref(false)
async function publish(): Promise<void> {
  const problem =
    content.value === null
      ? null
      : (feedProblem(content.value) ??
        (list.value !== null && (workspace.mail(list.value.id)?.published ?? null) === null
          ? 'The list sends no mail yet: set its sender up at the station Mail of one of its forms, and publish it.'
          : null))
  if (problem !== null) {
    notices.problem(`Not begun. ${problem}`)
    return
  }
  isBusy.value = true
  try {
    await document.whenKept()
    if (content.value?.logo) await receiver.tell('picture', content.value.logo.id)
    await receiver.publish([{ kind: 'feed', key: id.value }])
    // What it holds now is known from the first reading: only what comes later is news.
    if (receiver.pairing !== null) await clientFor({ ...receiver.pairing }).readFeedNow(id.value)
    notices.done('The feed is read each hour from now on. What appears from now on becomes a letter.')
    await lookAgain()
  } catch (error) {
    notices.problem(`Not begun: ${error instanceof Error ? error.message : 'no answer'}.`)
  } finally {
    isBusy.value = false
  }
}
async function readNow(): Promise<void> {
  if (receiver.pairing === null) return
  await clientFor({ ...receiver.pairing }).readFeedNow(id.value)
  await lookAgain()
}
async function pause(isPaused: boolean): Promise<void> {
  await letters.pauseFeed(id.value, isPaused)
  await receiver.tell('feed', id.value)
  notices.done(isPaused ? 'Paused: the feed is not read meanwhile.' : 'The feed is read again.')
}
async function remove(): Promise<void> {
  await letters.removeFeed(id.value)
  await router.push({ name: 'letters', query: { view: 'feeds' } })
  notices.done('The feed is taken away. Letters that were made of it stay.')
}
</script>

<template>
  <Nowhere v-if="letters.isLoaded && feed === null" />
  <Page v-else-if="content && list && settings" :title="content.name || 'A feed without a name'">
    <template #above><RouterLink :to="{ name: 'letters', query: { view: 'feeds' } }">Letters</RouterLink></template>
    <template #below>
      <p v-if="feed?.published === null" class="quiet">Not begun yet.</p>
      <p v-else-if="state?.said" class="problem">It could not be read last: {{ state.said }}</p>
      <p v-else-if="state?.readAt" class="quiet">
        Read {{ shownMoment(new Date(state.readAt).toISOString()) }}: {{ state.posts }} posts{{
          state.waiting.length > 0
            ? `, ${state.waiting.length} of them new${state.nextAt ? `; they go ${shownMoment(new Date(state.nextAt).toISOString())}` : ''}`
            : ', nothing new'
        }}. {{ feed?.isPaused ? 'It is paused.' : '' }}
      </p>
    </template>
    <template #actions>
      <span class="row">
        <Changes>
          <ElButton v-hint="'Take the feed away'" text aria-label="Take the feed away" @click="remove"
            ><Trash2 :size="18"
          /></ElButton>
          <template v-if="feed?.published">
            <ElButton @click="readNow"><RefreshCw :size="16" /><span>Read it now</span></ElButton>
            <ElButton v-if="feed.isPaused" @click="pause(false)"><Play :size="16" /><span>Go on</span></ElButton>
            <ElButton v-else @click="pause(true)"><Pause :size="16" /><span>Pause</span></ElButton>
          </template>
          <ElButton type="primary" :loading="isBusy" :disabled="isPublished || undefined" @click="publish">{{
            feed?.published ? (isPublished ? 'All of it is in use' : 'Use the changes') : 'Begin it'
          }}</ElButton>
        </Changes>
      </span>
    </template>
    <Changes>
      <FeedInHand :content="content" :list="list" :settings="settings" :change="change" />
    </Changes>
  </Page>
  <ElSkeleton v-else class="page" :rows="8" animated />
</template>

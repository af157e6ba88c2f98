<script setup lang="ts">
import { Mail, Plus, Rss, Waypoints } from '@lucide/vue'
import { ElButton, ElDropdown, ElDropdownItem, ElDropdownMenu, ElEmpty } from 'element-plus'
import { computed } from 'vue'
import { RouterLink, useRoute, useRouter } from 'vue-router'
import type { ListId } from '#core/ids'
import { type LetterStart, letterStarts, type Sending, titleOf } from '#core/letter'
import { shownMoment, useRowKeys } from '../controls'
import Changes from '../controls/Changes.vue'
import Page from '../controls/Page.vue'
import Views from '../controls/Views.vue'
import { useWorkspace } from '../data'
import FeedsOf from './FeedsOf.vue'
import LetterRow from './LetterRow.vue'
import { shareWords, stateWords, useSendings, useSendingWords } from './sendings'
import SeriesOf from './SeriesOf.vue'
import { useLetters } from './store'

/** Everything that is written to lists: drafts, what waits and goes, what was sent; series, and letters from feeds. */
const workspace = useWorkspace()
const letters = useLetters()
const router = useRouter()
const route = useRoute()
const words = useSendingWords()
const { sendings, problem } = useSendings()
const onKey = useRowKeys()

const views = [
  { value: 'letters', label: 'Letters' },
  { value: 'series', label: 'After joining' },
  { value: 'feeds', label: 'From your sites' },
] as const
type View = (typeof views)[number]['value']
/** In the address, so that a link leads to it. */
const view = computed<View>({
  get: () => views.find(({ value }) => value === route.query.view)?.value ?? 'letters',
  set: (value) => void router.replace({ query: value === 'letters' ? {} : { view: value } }),
})

const own = computed(() => (sendings.value ?? []).filter(({ source }) => source.kind !== 'series'))
const inState = (...states: Sending['state'][]) => own.value.filter(({ state }) => states.includes(state))
const groups = computed(() =>
  [
    { name: 'Waits for you', all: inState('asks', 'stopped') },
    { name: 'On its way', all: inState('settling', 'going', 'planned') },
    { name: 'Sent', all: inState('done', 'cancelled') },
  ].filter(({ all }) => all.length > 0),
)
const zone = Intl.DateTimeFormat().resolvedOptions().timeZone
const firstList = computed((): ListId | null => workspace.lists[0]?.id ?? null)

async function write(start: LetterStart): Promise<void> {
  if (firstList.value === null) return
  // Between several, only the owner knows whom it is to.
  const made = await letters.makeLetter(start, workspace.lists.length === 1 ? [firstList.value] : [])
  await router.push({ name: 'letter', params: { id: made.id } })
}
async function beginSeries(): Promise<void> {
  if (firstList.value === null) return
  const made = await letters.makeSeries(firstList.value, 'After joining', zone)
  await router.push({ name: 'series', params: { id: made.id } })
}
async function beginFeed(): Promise<void> {
  if (firstList.value === null) return
  const site = workspace.sites[0]
  const made = await letters.makeFeed(firstList.value, site === undefined ? 'New posts' : `New on ${site.name}`, zone)
  await router.push({ name: 'feed', params: { id: made.id } })
}
const isEmpty = computed(
  () => letters.isLoaded && letters.letters.length === 0 && sendings.value !== null && own.value.length === 0,
)
function outcome(sending: Sending): string {
  const { sent, bounced, left } = sending.counts
  if (sent + bounced === 0) return ''
  const leaving =
    left === 0 ? 'nobody left' : `${left.toLocaleString('en-GB')} left, ${shareWords(left, sending.counts)}`
  return `to ${(sent + bounced).toLocaleString('en-GB')}; ${leaving}`
}
</script>

<template>
  <Page title="Letters">
    <template #actions>
      <Changes>
        <ElDropdown v-if="view === 'letters'" trigger="click" @command="write">
          <ElButton type="primary" :disabled="firstList === null || undefined"
            ><Plus :size="18" /><span>Write a letter</span></ElButton
          >
          <template #dropdown>
            <ElDropdownMenu>
              <ElDropdownItem v-for="start in letterStarts" :key="start.key" :command="start.key">
                <span class="start"
                  ><b>{{ start.name }}</b> <span class="quiet small">{{ start.purpose }}</span></span
                >
              </ElDropdownItem>
            </ElDropdownMenu>
          </template>
        </ElDropdown>
        <ElButton
          v-else-if="view === 'series'"
          type="primary"
          :disabled="firstList === null || undefined"
          @click="beginSeries"
          ><Plus :size="18" /><span>Begin a series</span></ElButton
        >
        <ElButton v-else type="primary" :disabled="firstList === null || undefined" @click="beginFeed"
          ><Plus :size="18" /><span>Take in a feed</span></ElButton
        >
      </Changes>
    </template>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <p v-if="workspace.isLoaded && firstList === null" class="quiet">
      A letter goes to a list. <RouterLink :to="{ name: 'lists' }">Make one first</RouterLink>.
    </p>
    <Views v-model="view" label="Of letters" :views="views">
      <div v-if="view === 'letters'" class="view" @keydown="onKey">
        <ElEmpty
          v-if="isEmpty"
          class="sheet"
          description="Nothing is written yet. A letter goes to everybody on a list, or to some of them; news once in a while is enough."
        />
        <section v-if="letters.letters.length > 0" aria-labelledby="drafts">
          <h2 id="drafts">In hand</h2>
          <ul>
            <LetterRow
              v-for="letter in letters.letters"
              :key="letter.id"
              :icon="Mail"
              :to="{ name: 'letter', params: { id: letter.id } }"
              :title="titleOf(letter.draft, 'A letter without a subject')"
              :lists="words.listNames({ content: letter.draft })"
              ><span class="quiet">begun {{ shownMoment(letter.createdAt) }}</span></LetterRow
            >
          </ul>
        </section>
        <section v-for="group in groups" :key="group.name" :aria-label="group.name">
          <h2>{{ group.name }}</h2>
          <ul>
            <LetterRow
              v-for="sending in group.all"
              :key="sending.id"
              :icon="sending.source.kind === 'feed' ? Rss : Mail"
              :to="{ name: 'sending', params: { id: sending.id } }"
              :title="words.title(sending)"
              :lists="words.listNames(sending)"
              ><span :class="{ problem: sending.state === 'stopped' }">{{ stateWords(sending) }}</span
              >{{ ' ' }}<span class="quiet">{{ outcome(sending) }}</span></LetterRow
            >
          </ul>
        </section>
      </div>
      <SeriesOf v-else-if="view === 'series'" :icon="Waypoints" />
      <FeedsOf v-else />
    </Views>
  </Page>
</template>

<style scoped>
.view,
section {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-3);
}
.view {
  gap: var(--gap-5);
}
ul {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-2);
  margin: 0;
  padding: 0;
}
.start {
  display: grid;
  line-height: 1.3;
}
</style>

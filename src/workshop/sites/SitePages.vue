<script setup lang="ts">
import { ElButton, ElCheckbox, ElEmpty, ElProgress, ElSkeleton } from 'element-plus'
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import { crawlChanges, isSound, spotOnPageWords } from '#core/crawl'
import type { SiteId, SpotId } from '#core/ids'
import { addressProblem } from '#core/site'
import { spotName } from '#core/spot'
import { clientFor, type Client } from '../client'
import { shownMoment } from '../controls'
import Changes from '../controls/Changes.vue'
import Page from '../controls/Page.vue'
import { useWorkspace } from '../data'
import { useNotices } from '../notices'
import Nowhere from '../Nowhere.vue'
import { useReceiver, useReceiverAnswer } from '../sync'
import { useTitle } from '../title'
import SpotOnPages from './SpotOnPages.vue'

/** A whole site looked at: on which of its pages each spot stands, and where not. */
const props = defineProps<{ id: string }>()
const workspace = useWorkspace()
const receiver = useReceiver()
const notices = useNotices()

const id = computed(() => props.id as SiteId)
const site = computed(() => workspace.site(id.value))
useTitle(() => (site.value === null ? null : `Pages of ${site.value.name}`))
const { answer: state, problem, look } = useReceiverAnswer((client) => client.crawl(id.value), 1_000)
const newest = computed(() => state.value?.newest ?? null)
const running = computed(() => state.value?.running ?? null)
const share = computed(() =>
  running.value === null || running.value.of === 0 ? 0 : Math.round((100 * running.value.done) / running.value.of),
)
async function ask(what: (client: Client) => Promise<unknown>): Promise<void> {
  if (receiver.pairing === null) return
  try {
    await what(clientFor({ ...receiver.pairing }))
    await look()
  } catch (error) {
    notices.problem(error instanceof Error ? error.message : String(error))
  }
}

const origin = computed(() =>
  site.value === null || addressProblem(site.value.address) !== null ? null : new URL(site.value.address).origin,
)
const spots = computed(() =>
  workspace.spots.filter(({ site: of, state, kind }) => of === id.value && state === 'live' && kind !== 'landing'),
)
const unread = computed(() => newest.value?.pages.filter(({ problem }) => problem !== undefined) ?? [])
const changes = computed(() => {
  const [now, before] = [newest.value, state.value?.before ?? null]
  if (now === null || before === null) return []
  return crawlChanges(before, now).map((change) => {
    const spot = workspace.spot(change.spot as SpotId)
    return {
      ...change,
      name: spot === null ? 'a spot' : spotName(spot, workspace.sites),
      isWorse: isSound(change.was) && !isSound(change.is),
      words: `${change.was === null ? 'not there' : spotOnPageWords[change.was]}, now ${change.is === null ? 'not there' : spotOnPageWords[change.is]}`,
    }
  })
})
const summary = computed(() => {
  const report = newest.value
  if (report === null) return ''
  const { pages, found, from, forbidden } = report
  const read = pages.length - unread.value.length
  const of = found > pages.length ? ` of ${found.toLocaleString('en-GB')}` : ''
  const more = [
    ...(forbidden > 0 ? [`${forbidden} not looked at, as its robots.txt wishes`] : []),
    ...(report.isStopped ? ['stopped before its end'] : []),
  ]
  return `${read.toLocaleString('en-GB')}${of} pages from its ${from}, ${shownMoment(new Date(report.endedAt).toISOString())}${more.map((one) => `; ${one}`).join('')}.`
})
</script>

<template>
  <Nowhere v-if="workspace.isLoaded && site === null" what="site" />
  <Page v-else-if="site" :title="`Pages of ${site.name}`">
    <template #above><RouterLink :to="{ name: 'sites' }">Sites</RouterLink></template>
    <template #below>
      <p v-if="summary" class="quiet">{{ summary }}</p>
    </template>
    <template #actions>
      <Changes>
        <ElButton v-if="running" @click="ask((client) => client.stopCrawl(id))">Stop</ElButton>
        <ElButton
          v-else
          type="primary"
          :disabled="origin === null || undefined"
          @click="ask((client) => client.beginCrawl(id))"
          >{{ newest === null ? 'Look through the site' : 'Look again' }}</ElButton
        >
      </Changes>
    </template>
    <div v-if="running" class="sheet told" role="status">
      <p v-if="running.doing === 'finding'">Finding its pages: its sitemap, else its links …</p>
      <p v-else>
        {{ running.done }} of {{ running.of }} pages. <span class="quiet small now">{{ running.page }}</span>
      </p>
      <ElProgress :percentage="share" aria-label="Pages looked at" />
    </div>
    <p v-if="state && state.said && !running" class="problem" role="alert">{{ state.said }}</p>
    <p v-if="problem && state === null" class="problem" role="alert">{{ problem }}</p>
    <ElSkeleton v-if="state === null && !problem" :rows="5" animated />
    <ElEmpty
      v-else-if="newest === null && !running"
      class="sheet"
      description="It was not looked through yet. Up to 500 pages are opened, one at a time and slowly, as a visitor would: then you see on which each form stands, and where it is missing, damaged or old."
    />
    <template v-if="newest">
      <Changes>
        <ElCheckbox :model-value="state!.isRepeated" @change="ask((client) => client.repeatCrawl(id, $event === true))"
          >Look through it every week, and tell me on the Desk when a form is lost</ElCheckbox
        >
      </Changes>
      <section v-if="changes.length > 0" class="sheet told" aria-labelledby="changes">
        <h2 id="changes">Different from the time before</h2>
        <ul class="small">
          <li v-for="change in changes.slice(0, 30)" :key="`${change.spot} ${change.path}`">
            <a v-if="origin" :href="`${origin}${change.path}`" target="_blank" rel="noreferrer">{{ change.path }}</a>
            <span>{{ change.name }}</span>
            <span :class="{ problem: change.isWorse }">{{ change.words }}</span>
          </li>
        </ul>
        <p v-if="changes.length > 30" class="quiet small">And {{ changes.length - 30 }} more.</p>
      </section>
      <p v-if="spots.length === 0" class="quiet">No form sits on this site.</p>
      <SpotOnPages v-for="spot in spots" :key="spot.id" :spot="spot" :report="newest" :origin="origin ?? ''" />
      <section v-if="unread.length > 0 || newest.remarks.length > 0" class="sheet told" aria-labelledby="unread">
        <h2 id="unread">Not looked at</h2>
        <ul class="small">
          <li v-for="remark in newest.remarks" :key="remark">{{ remark }}</li>
          <li v-for="page in unread.slice(0, 20)" :key="page.path">
            <span>{{ page.path }}</span> <span class="quiet">{{ page.problem }}</span>
          </li>
        </ul>
        <p v-if="unread.length > 20" class="quiet small">And {{ unread.length - 20 }} more pages.</p>
      </section>
    </template>
  </Page>
</template>

<style scoped>
.told {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-2);
  padding: var(--gap-3) var(--gap-4);
}
p,
h2 {
  margin: 0;
}
h2 {
  font-size: var(--text-l);
}
.now {
  overflow-wrap: anywhere;
}
ul {
  display: grid;
  gap: 2px;
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  flex-wrap: wrap;
  gap: 0 var(--gap-3);
  overflow-wrap: anywhere;
}
</style>

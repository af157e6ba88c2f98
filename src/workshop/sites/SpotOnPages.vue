<script setup lang="ts">
import { ElCollapse, ElCollapseItem } from 'element-plus'
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import { type CrawlReport, groupWords, spotInGroups, spotOnPageWords, spotSentence, type SpotOnPage } from '#core/crawl'
import { codeNames, codeOf } from '#core/embed'
import { sitePath } from '#core/site'
import { type Spot, spotKinds } from '#core/spot'
import ShareBar from '../charts/ShareBar.vue'
import { lowerFirst } from '../controls'
import { useWorkspace } from '../data'

/** On which groups of a site's pages a spot stands, with each page on a press. */
const { spot, report, origin } = defineProps<{ spot: Spot; report: CrawlReport; origin: string }>()
const workspace = useWorkspace()
const form = computed(() => workspace.form(spot.form))
const code = computed(() => codeOf(spot, workspace.site(spot.site)))
const place = computed(() => spotKinds.find(({ kind }) => kind === spot.kind)?.name ?? spot.kind)
const wasLookedFor = computed(() => report.spots.includes(spot.id))
const groups = computed(() => spotInGroups(report, spot.id, sitePath(workspace.site(spot.site)?.address ?? '')))
const bad: readonly SpotOnPage[] = ['no-place', 'damaged', 'twice']
/** Groups on which there is nothing to say are counted, and not listed. */
const shown = computed(() =>
  groups.value
    .filter(({ states }) => Object.keys(states).length > 0)
    .map(({ under, of, states, without }) => {
      const count = (some: readonly SpotOnPage[]) => some.reduce((sum, one) => sum + (states[one]?.length ?? 0), 0)
      return {
        under,
        title: groupWords(under, of),
        parts: [
          { name: 'done' as const, count: count(['there', 'older']) },
          { name: 'waiting' as const, count: count(['unseen']) + without.length },
          { name: 'bad' as const, count: count(bad) },
        ],
        states: (Object.entries(states) as [SpotOnPage, NonNullable<(typeof states)[SpotOnPage]>][]).map(
          ([state, pages]) => ({ state, pages, isBad: bad.includes(state) }),
        ),
        without,
      }
    }),
)
const others = computed(() => groups.value.filter(({ states }) => Object.keys(states).length === 0))
const MOST = 40
</script>

<template>
  <section class="sheet spot" :aria-label="form?.name ?? place">
    <h2>
      <RouterLink :to="{ name: 'form', params: { id: spot.form, station: 'spot' } }">{{
        form?.name ?? 'A form'
      }}</RouterLink>
      <span class="quiet small">{{ lowerFirst(place) }} · {{ lowerFirst(codeNames[code]) }}</span>
    </h2>
    <p v-if="!wasLookedFor" class="quiet">It came after the site was looked through. Look again.</p>
    <template v-else>
      <p>{{ spotSentence(groups) }}</p>
      <ElCollapse v-if="shown.length > 0">
        <ElCollapseItem v-for="group in shown" :key="group.under" :name="group.under">
          <template #title>
            <span class="group">
              <span>{{ group.title }}</span>
              <ShareBar :parts="group.parts" />
              <span class="small words"
                ><span v-for="one in group.states" :key="one.state" :class="{ problem: one.isBad }"
                  >{{ one.pages.length }} {{ spotOnPageWords[one.state] }}</span
                ><span v-if="group.without.length > 0" class="quiet">{{ group.without.length }} without</span></span
              >
            </span>
          </template>
          <div v-for="one in group.states" :key="one.state" class="pages small">
            <p :class="{ problem: one.isBad }">
              <b>{{ spotOnPageWords[one.state] }}</b> {{ one.pages[0]!.spots[spot.id]!.said }}
            </p>
            <ul>
              <li v-for="page in one.pages.slice(0, MOST)" :key="page.path">
                <a :href="`${origin}${page.path}`" target="_blank" rel="noreferrer">{{ page.path }}</a>
              </li>
            </ul>
            <p v-if="one.pages.length > MOST" class="quiet">And {{ one.pages.length - MOST }} more.</p>
          </div>
          <div v-if="group.without.length > 0" class="pages small">
            <p><b>without</b></p>
            <ul>
              <li v-for="page in group.without.slice(0, MOST)" :key="page.path">
                <a :href="`${origin}${page.path}`" target="_blank" rel="noreferrer">{{ page.path }}</a>
              </li>
            </ul>
            <p v-if="group.without.length > MOST" class="quiet">And {{ group.without.length - MOST }} more.</p>
          </div>
        </ElCollapseItem>
      </ElCollapse>
      <p v-if="shown.length > 0 && others.length > 0" class="quiet small">
        Without it: {{ others.map(({ under, of }) => groupWords(under, of)).join(', ') }}.
      </p>
    </template>
  </section>
</template>

<style scoped>
.spot,
.pages {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-2);
}
.spot {
  padding: var(--gap-3) var(--gap-4);
}
h2,
p {
  margin: 0;
}
h2 .small {
  font-weight: 400;
}
h2 {
  display: flex;
  flex-wrap: wrap;
  gap: 0 var(--gap-3);
  align-items: baseline;
  font-size: var(--text-l);
}
.group {
  display: grid;
  grid-template-columns: minmax(0, 18rem) 140px minmax(0, 1fr);
  gap: var(--gap-1) var(--gap-4);
  align-items: center;
  width: 100%;
  text-align: start;
}
.words {
  display: flex;
  flex-wrap: wrap;
  gap: 0 var(--gap-3);
}
ul {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(100%, 300px), 1fr));
  gap: 2px var(--gap-4);
  margin: 0;
  padding: 0;
  list-style: none;
  overflow-wrap: anywhere;
}
@media (max-width: 700px) {
  .group {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>

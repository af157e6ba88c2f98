<script setup lang="ts">
import { FileUp, Pencil, Plus } from '@lucide/vue'
import { ElButton } from 'element-plus'
import { computed, reactive, ref } from 'vue'
import { RouterLink, useRoute, useRouter } from 'vue-router'
import type { ListId } from '#core/ids'
import { localTime } from '#core/results'
import { useWorkspace } from '../data'
import Changes from '../controls/Changes.vue'
import FirstPeople from './FirstPeople.vue'
import GrowthChart from '../charts/GrowthChart.vue'
import { useGrowth } from './growth'
import ListFeeds from './ListFeeds.vue'
import ListHistory from './ListHistory.vue'
import ListLetters from './ListLetters.vue'
import ListSettings from './ListSettings.vue'
import ListSummary from './ListSummary.vue'
import OnwardCard from '../connections/OnwardCard.vue'
import { useSendings } from '../letters'
import { useMembers } from '../people'
import MemberEditor from './MemberEditor.vue'
import MemberTable from './table/MemberTable.vue'
import RefusedChanges from './RefusedChanges.vue'
import Nowhere from '../Nowhere.vue'
import { useTitle } from '../title'
import Page from '../controls/Page.vue'
import Views from '../controls/Views.vue'

const props = defineProps<{ id: string }>()
const workspace = useWorkspace()
const members = useMembers()
const route = useRoute()
const router = useRouter()
const list = computed(() => {
  const one = workspace.list(props.id as ListId)
  return one?.deletedAt === undefined ? one : null
})
/** Nobody ever was on it. */
const isEmpty = computed(
  () => members.isReady && Object.values(members.countsOf(props.id as ListId) ?? {}).every((count) => count === 0),
)
useTitle(() => list.value?.name ?? null)
const grown = reactive(useGrowth(() => props.id as ListId))
/** Letters that were sent to it, on their days. */
const { sendings } = useSendings(60_000)
const here = Intl.DateTimeFormat().resolvedOptions().timeZone
const marks = computed(() =>
  (sendings.value ?? [])
    .filter(
      ({ source, counts, content }) =>
        source.kind !== 'series' && counts.sent > 0 && content.lists.includes(props.id as ListId),
    )
    .map(({ startsAt }) => ({ day: localTime(startsAt, here).day, short: 'letter' })),
)
const isAdding = ref(false)
const isEditing = ref(false)

const views = [
  { value: 'people', label: 'People' },
  { value: 'growth', label: 'How it grew' },
  { value: 'letters', label: 'Letters' },
  { value: 'onward', label: 'Where it is handed on' },
] as const
type View = (typeof views)[number]['value']
/** In the address, so that a link leads to it. */
const view = computed<View>({
  get: () => views.find(({ value }) => value === route.query.view)?.value ?? 'people',
  set: (value) => void router.replace({ query: value === 'people' ? {} : { view: value } }),
})
</script>

<template>
  <Nowhere v-if="workspace.isLoaded && list === null" />
  <Page v-else-if="list" :title="list.name">
    <template #below><ListSummary :list="list" :growth="grown.rows" /></template>
    <template #actions>
      <span class="row">
        <Changes>
          <ElButton :aria-expanded="isEditing" @click="isEditing = !isEditing"
            ><Pencil :size="16" /><span
              >{{ isEditing ? 'Done' : 'Edit'
              }}<span v-if="!isEditing" class="at-desk">&nbsp;name, words and columns</span></span
            ></ElButton
          >
          <RouterLink v-slot="{ navigate }" custom :to="{ name: 'import', params: { id: list.id } }">
            <ElButton @click="navigate()"><FileUp :size="16" /><span>Bring in a file</span></ElButton>
          </RouterLink>
          <ElButton @click="isAdding = true"
            ><Plus :size="18" /><span>Add<span class="at-desk">&nbsp;somebody</span></span></ElButton
          >
        </Changes>
      </span>
    </template>
    <RefusedChanges :list="list.id" />
    <ListSettings v-if="isEditing" :list="list" />
    <Views v-model="view" label="Of this list" :views="views">
      <div class="view">
        <template v-if="view === 'people'">
          <FirstPeople v-if="isEmpty" :list="list" @add="isAdding = true" />
          <MemberTable v-else :list="list" />
        </template>
        <template v-else-if="view === 'growth'">
          <ListFeeds :list="list" />
          <ListHistory :list="list" />
          <template v-if="grown.days.length > 1">
            <GrowthChart
              v-for="hasTotal in [true, false]"
              :key="String(hasTotal)"
              :days="grown.days"
              :growth="grown.rows ?? []"
              :title="hasTotal ? 'How many are on it' : 'Who came, and who left'"
              :onto="`“${list.name}”`"
              :has-total="hasTotal"
              :height="180"
              :marks="marks"
            />
          </template>
          <p v-else-if="grown.rows !== null" class="quiet">Its curve begins with the second day.</p>
        </template>
        <ListLetters v-else-if="view === 'letters'" :list="list" />
        <OnwardCard v-else :list="list" />
      </div>
    </Views>
    <MemberEditor v-if="isAdding" :list="list" :member="null" @close="isAdding = false" />
  </Page>
</template>

<style scoped>
.view {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-4);
}
@media (max-width: 640px) {
  /* Heard all the same. */
  .at-desk {
    position: absolute;
    width: 1px;
    height: 1px;
    overflow: hidden;
    clip-path: inset(50%);
  }
}
</style>

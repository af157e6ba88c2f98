<script setup lang="ts">
import { FileUp, Pencil, Plus } from '@lucide/vue'
import { ElButton } from 'element-plus'
import { computed, reactive, ref } from 'vue'
import { RouterLink } from 'vue-router'
import type { ListId } from '#core/ids'
import { useWorkspace } from '../data'
import ListCard from './ListCard.vue'
import FirstPeople from './FirstPeople.vue'
import GrowthChart from '../charts/GrowthChart.vue'
import { useGrowth } from './growth'
import ListHistory from './ListHistory.vue'
import ListSettings from './ListSettings.vue'
import OnwardCard from '../connections/OnwardCard.vue'
import { useMembers } from '../people'
import MemberEditor from './MemberEditor.vue'
import MemberTable from './table/MemberTable.vue'
import RefusedChanges from './RefusedChanges.vue'
import Nowhere from '../Nowhere.vue'
import { useTitle } from '../title'
import Page from '../controls/Page.vue'

const props = defineProps<{ id: string }>()
const workspace = useWorkspace()
const members = useMembers()
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
const isAdding = ref(false)
const isEditing = ref(false)
</script>

<template>
  <Nowhere v-if="workspace.isLoaded && list === null" />
  <Page v-else-if="list" class="list" :title="list.name">
    <template #actions>
      <span class="row">
        <ElButton :aria-expanded="isEditing" @click="isEditing = !isEditing"
          ><Pencil :size="16" /><span>{{ isEditing ? 'Done' : 'Edit name, words and columns' }}</span></ElButton
        >
        <RouterLink v-slot="{ navigate }" custom :to="{ name: 'import', params: { id: list.id } }">
          <ElButton @click="navigate()"><FileUp :size="16" /><span>Bring in a file</span></ElButton>
        </RouterLink>
        <ElButton @click="isAdding = true"><Plus :size="18" /><span>Add somebody</span></ElButton>
      </span>
    </template>
    <RefusedChanges :list="list.id" />
    <ul class="card">
      <ListCard :list="list" is-whole />
    </ul>
    <ListSettings v-if="isEditing" :list="list" />
    <GrowthChart
      v-if="grown.days.length > 1"
      :days="grown.days"
      :growth="grown.rows ?? []"
      title="How it grew"
      :onto="`“${list.name}”`"
      has-total
      :height="150"
    />
    <OnwardCard :list="list" />
    <ListHistory :list="list" />
    <FirstPeople v-if="isEmpty" :list="list" @add="isAdding = true" />
    <MemberTable v-else :list="list" />
    <MemberEditor v-if="isAdding" :list="list" :member="null" @close="isAdding = false" />
  </Page>
</template>

<style scoped>
.list {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-4);
}
.card {
  margin: 0;
  padding: 0;
  list-style: none;
}
</style>

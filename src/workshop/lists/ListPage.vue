<script setup lang="ts">
import { FileUp, Pencil, Plus } from '@lucide/vue'
import { ElButton } from 'element-plus'
import { computed, ref } from 'vue'
import { RouterLink } from 'vue-router'
import type { ListId } from '#core/ids'
import { useWorkspace } from '../data'
import Labelled from '../controls/Labelled.vue'
import TypedInput from '../controls/TypedInput.vue'
import ListCard from './ListCard.vue'
import ListColumns from './ListColumns.vue'
import ListHistory from './ListHistory.vue'
import MemberEditor from './MemberEditor.vue'
import MemberTable from './table/MemberTable.vue'
import RefusedChanges from './RefusedChanges.vue'
import Nowhere from '../Nowhere.vue'
import { useTitle } from '../title'

const props = defineProps<{ id: string }>()
const workspace = useWorkspace()
const list = computed(() => workspace.list(props.id as ListId))
useTitle(() => list.value?.name ?? null)
const isAdding = ref(false)
const isEditing = ref(false)
</script>

<template>
  <Nowhere v-if="workspace.isLoaded && list === null" />
  <div v-else-if="list" class="page list">
    <div class="page-head">
      <h1>{{ list.name }}</h1>
      <span class="row">
        <ElButton :aria-expanded="isEditing" @click="isEditing = !isEditing"
          ><Pencil :size="16" /><span>{{ isEditing ? 'Done' : 'Edit name, words and columns' }}</span></ElButton
        >
        <RouterLink v-slot="{ navigate }" custom :to="{ name: 'import', params: { id: list.id } }">
          <ElButton @click="navigate()"><FileUp :size="16" /><span>Bring in a file</span></ElButton>
        </RouterLink>
        <ElButton @click="isAdding = true"><Plus :size="18" /><span>Add somebody</span></ElButton>
      </span>
    </div>
    <RefusedChanges :list="list.id" />
    <ul class="card">
      <ListCard :list="list" is-whole />
    </ul>
    <div v-if="isEditing" class="facts">
      <Labelled label="Name">
        <TypedInput
          :value="list.name"
          :maxlength="200"
          @change="$event.trim() && workspace.changeList(list.id, { name: $event.trim() })"
        />
      </Labelled>
      <Labelled label="Why people get its messages, said in each of them">
        <TypedInput :value="list.why" :maxlength="2000" @change="workspace.changeList(list.id, { why: $event })" />
      </Labelled>
    </div>
    <ListColumns v-if="isEditing" :list="list" />
    <ListHistory :list="list" />
    <MemberTable :list="list" />
    <MemberEditor v-if="isAdding" :list="list" :member="null" @close="isAdding = false" />
  </div>
</template>

<style scoped>
.list {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-4);
}
.page-head {
  margin: 0;
}
.facts {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(360px, 100%), 1fr));
  align-items: end;
  gap: var(--gap-4);
}
.card {
  margin: 0;
  padding: 0;
  list-style: none;
}
</style>

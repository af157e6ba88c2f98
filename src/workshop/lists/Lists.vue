<script setup lang="ts">
import { Plus } from '@lucide/vue'
import { ElButton, ElEmpty, ElInput } from 'element-plus'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import type { ListId } from '#core/ids'
import { useRowKeys } from '../controls'
import { useWorkspace } from '../data'
import Changes from '../controls/Changes.vue'
import ListCard from './ListCard.vue'
import { useMembers } from '../people'
import ReceiptCheck from './ReceiptCheck.vue'
import Labelled from '../controls/Labelled.vue'
import FindBox from '../controls/FindBox.vue'
import Page from '../controls/Page.vue'
import Select from '../controls/Select.vue'

const router = useRouter()
const workspace = useWorkspace()
const members = useMembers()
void members.load()
/** Of more, nobody finds one at a glance. */
const MANY = 8
const words = ref('')
const order = ref<'name' | 'people' | ''>('name')
const orders = [
  { value: 'name' as const, label: 'By name' },
  { value: 'people' as const, label: 'Most people first' },
]
const onIt = (id: ListId) => members.countsOf(id)?.confirmed ?? 0
const shown = computed(() => {
  const sought = words.value.trim().toLowerCase()
  const found = workspace.lists.filter(({ name }) => name.toLowerCase().includes(sought))
  return order.value === 'people' ? found.toSorted((one, other) => onIt(other.id) - onIt(one.id)) : found
})
const onKey = useRowKeys()
const isMaking = ref(false)
const name = ref('')
async function make(): Promise<void> {
  if (name.value.trim() === '') return
  const made = await workspace.makeList(name.value.trim())
  await router.push({ name: 'list', params: { id: made.id } })
}
</script>

<template>
  <Page title="Lists">
    <template #actions>
      <Changes>
        <ElButton v-if="!isMaking" type="primary" @click="isMaking = true"
          ><Plus :size="18" /><span>New list</span></ElButton
        >
        <form novalidate v-else class="row" @submit.prevent="make">
          <Labelled label="Name, as its members will know it">
            <ElInput v-model="name" :maxlength="200" autofocus />
          </Labelled>
          <ElButton type="primary" native-type="submit" :disabled="name.trim() === '' || undefined"
            >Make the list</ElButton
          >
          <ElButton text @click="isMaking = false">Cancel</ElButton>
        </form>
      </Changes>
    </template>
    <ElEmpty
      v-if="workspace.isLoaded && workspace.lists.length === 0"
      class="sheet"
      description="There is no list yet. A form needs one to feed, so make the list first."
    />
    <template v-else>
      <FindBox
        v-if="workspace.lists.length > MANY"
        v-model="words"
        label="Find a list"
        :count="shown.length"
        :of="workspace.lists.length"
      >
        <Select v-model="order" class="order" label="Order" :options="orders" />
      </FindBox>
      <p v-if="shown.length === 0" class="quiet">No list is called so.</p>
      <ul @keydown="onKey">
        <ListCard v-for="list in shown" :key="list.id" :list="list" />
      </ul>
    </template>
    <section v-if="workspace.archivedLists.length > 0" aria-labelledby="archived-title" class="archived">
      <h2 id="archived-title">Archived</h2>
      <ul>
        <ListCard v-for="list in workspace.archivedLists" :key="list.id" :list="list" />
      </ul>
    </section>
    <ReceiptCheck v-if="workspace.lists.length > 0" />
  </Page>
</template>

<style scoped>
.order {
  width: 180px;
}
.archived {
  display: grid;
  gap: var(--gap-3);
  margin-block-start: var(--gap-5);
}
ul {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-2);
  margin: 0;
  padding: 0;
  list-style: none;
}
</style>

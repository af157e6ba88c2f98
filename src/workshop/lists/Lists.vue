<script setup lang="ts">
import { Plus } from '@lucide/vue'
import { ElButton, ElEmpty, ElInput } from 'element-plus'
import { ref } from 'vue'
import { useWorkspace } from '../data'
import ListCard from './ListCard.vue'
import { useMembers } from '../people'
import ReceiptCheck from './ReceiptCheck.vue'
import Page from '../controls/Page.vue'

const workspace = useWorkspace()
const members = useMembers()
void members.load()
const isMaking = ref(false)
const name = ref('')
async function make(): Promise<void> {
  if (name.value.trim() === '') return
  await workspace.makeList(name.value.trim())
  name.value = ''
  isMaking.value = false
}
</script>

<template>
  <Page title="Lists">
    <template #actions>
      <ElButton v-if="!isMaking" type="primary" @click="isMaking = true"
        ><Plus :size="18" /><span>New list</span></ElButton
      >
      <form v-else class="row" @submit.prevent="make">
        <ElInput
          v-model="name"
          aria-label="Name of the new list, as its members will know it"
          placeholder="As its members will know it"
          :maxlength="200"
          autofocus
        />
        <ElButton type="primary" native-type="submit" :disabled="name.trim() === ''">Make the list</ElButton>
        <ElButton text @click="isMaking = false">Cancel</ElButton>
      </form>
    </template>
    <ElEmpty
      v-if="workspace.isLoaded && workspace.lists.length === 0"
      class="sheet"
      description="There is no list yet. A form needs one to feed, so make the list first."
    />
    <ul v-else>
      <ListCard v-for="list in workspace.lists" :key="list.id" :list="list" />
    </ul>
    <section v-if="workspace.archivedLists.length > 0" aria-labelledby="archived-title" class="archived">
      <h2 id="archived-title">Put away</h2>
      <ul>
        <ListCard v-for="list in workspace.archivedLists" :key="list.id" :list="list" />
      </ul>
    </section>
    <ReceiptCheck v-if="workspace.lists.length > 0" />
  </Page>
</template>

<style scoped>
.archived {
  display: grid;
  gap: var(--gap-3);
  margin-block-start: var(--gap-5);
}
ul {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-3);
  margin: 0;
  padding: 0;
  list-style: none;
}
</style>

<script setup lang="ts">
import { Plus } from '@lucide/vue'
import { ElButton, ElEmpty, ElInput, ElTable, ElTableColumn } from 'element-plus'
import { computed, ref } from 'vue'
import { RouterLink } from 'vue-router'
import type { List } from '#core/list'
import { useWorkspace } from '../data'
import { useMembers } from './members'

const workspace = useWorkspace()
const members = useMembers()
void members.load()
const isMaking = ref(false)
const name = ref('')
const rows = computed(() =>
  workspace.lists.map((list) => ({
    list,
    ...countsOf(list),
    forms: workspace.forms.filter((one) => one.list === list.id),
  })),
)

function countsOf({ id }: List): { on: number | string; gone: number | string } {
  const counts = members.countsOf(id)
  return counts === null
    ? { on: '', gone: '' }
    : { on: counts.confirmed, gone: counts.left + counts.removed + counts.bounced }
}

async function make(): Promise<void> {
  if (name.value.trim() === '') return
  await workspace.makeList(name.value.trim())
  name.value = ''
  isMaking.value = false
}
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Lists</h1>
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
    </div>
    <ElEmpty
      v-if="workspace.isLoaded && workspace.lists.length === 0"
      class="sheet"
      description="There is no list yet. A form needs one to feed, so make the list first."
    />
    <ElTable v-else :data="rows" table-layout="auto" class="sheet">
      <ElTableColumn label="List">
        <template #default="{ row }">
          <RouterLink :to="{ name: 'list', params: { id: row.list.id } }">{{ row.list.name }}</RouterLink>
        </template>
      </ElTableColumn>
      <ElTableColumn prop="on" label="On it" align="right" />
      <ElTableColumn prop="gone" label="Gone" align="right" />
      <ElTableColumn label="Fed by">
        <template #default="{ row }">
          <span v-for="form in row.forms" :key="form.id">
            <template v-if="form !== row.forms[0]"> · </template>
            <RouterLink :to="{ name: 'form', params: { id: form.id } }">{{ form.name }}</RouterLink>
          </span>
          <span v-if="row.forms.length === 0" class="quiet">no form</span>
        </template>
      </ElTableColumn>
    </ElTable>
  </div>
</template>

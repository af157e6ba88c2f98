<script setup lang="ts">
import { Plus } from '@lucide/vue'
import { ElButton, ElInput } from 'element-plus'
import { ref } from 'vue'
import { RouterLink } from 'vue-router'
import { useLive } from '../data'
import { countsOf } from './members'
import { useWorkspace } from '../data/workspace'

const workspace = useWorkspace()
const isMaking = ref(false)
const name = ref('')
const counts = useLive(
  async () =>
    Object.fromEntries(await Promise.all(workspace.lists.map(async ({ id }) => [id, shown(await countsOf(id))]))),
  {} as Record<string, Record<string, number>>,
  [() => workspace.lists],
)

function shown({ confirmed, left, removed, bounced }: Awaited<ReturnType<typeof countsOf>>): Record<string, number> {
  return { on: confirmed, gone: left + removed + bounced }
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
    <p v-if="workspace.isLoaded && workspace.lists.length === 0" class="sheet empty">
      There is no list yet. A form needs one to feed, so make the list first.
    </p>
    <table v-else class="plain-table sheet">
      <thead>
        <tr>
          <th scope="col">List</th>
          <th scope="col" class="number">On it</th>
          <th scope="col" class="number">Gone</th>
          <th scope="col">Fed by</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="list in workspace.lists" :key="list.id">
          <td>
            <RouterLink :to="{ name: 'list', params: { id: list.id } }">{{ list.name }}</RouterLink>
          </td>
          <td class="number">{{ counts[list.id]?.on ?? '' }}</td>
          <td class="number">{{ counts[list.id]?.gone ?? '' }}</td>
          <td>
            <span v-for="(form, at) in workspace.forms.filter((one) => one.list === list.id)" :key="form.id">
              <template v-if="at > 0"> · </template>
              <RouterLink :to="{ name: 'form', params: { id: form.id } }">{{ form.name }}</RouterLink>
            </span>
            <span v-if="!workspace.forms.some((one) => one.list === list.id)" class="quiet">no form</span>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.number {
  text-align: end;
}
.empty {
  padding: var(--gap-6);
  text-align: center;
}
</style>

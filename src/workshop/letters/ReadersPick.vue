<script setup lang="ts">
import { ElOption, ElSelect } from 'element-plus'
import { computed } from 'vue'
import type { ListId } from '#core/ids'
import type { LetterReaders } from '#core/letter'
import Labelled from '../controls/Labelled.vue'
import Select from '../controls/Select.vue'
import { useWorkspace } from '../data'

/** To whom: one list or more, and all who are on them or those whom a saved filter finds. */
const lists = defineModel<ListId[]>('lists', { required: true })
const readers = defineModel<LetterReaders>('readers', { required: true })
const workspace = useWorkspace()

const saved = computed(() => lists.value.flatMap((id) => workspace.list(id)?.filters ?? []))
const EVERYBODY = ''
const chosen = computed(() => (readers.value.kind === 'filter' ? readers.value.name : EVERYBODY))
const options = computed(() => [
  { value: EVERYBODY, label: 'Everybody who is on it' },
  ...saved.value.map(({ name }) => ({ value: name, label: name })),
  ...(chosen.value !== EVERYBODY && !saved.value.some(({ name }) => name === chosen.value)
    ? [{ value: chosen.value, label: `${chosen.value} (as it was)` }]
    : []),
])
function choose(name: string): void {
  const filter = saved.value.find((one) => one.name === name)
  if (name === EVERYBODY) readers.value = { kind: 'everybody' }
  else if (filter !== undefined) readers.value = { kind: 'filter', name, filter: filter.filter }
}
</script>

<template>
  <Labelled
    label="To the people of"
    :hint="lists.length > 1 ? 'The first decides on sender and looks. Who is on several gets it once.' : undefined"
  >
    <ElSelect v-model="lists" multiple aria-label="To the people of" placeholder="Choose a list">
      <ElOption v-for="list in workspace.lists" :key="list.id" :value="list.id" :label="list.name" />
    </ElSelect>
  </Labelled>
  <Labelled label="Who of them">
    <Select :model-value="chosen" :options="options" @update:model-value="choose" />
  </Labelled>
  <p v-if="saved.length === 0" class="quiet small">
    A filter that is saved in the table of a list’s people can be chosen here.
  </p>
</template>

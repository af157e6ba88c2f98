<script setup lang="ts">
import { computed, ref } from 'vue'
import { type Field, fieldTitle, type Form } from '#core/form'
import { useWorkspace } from '../../data/workspace'

/** The column of the list that keeps the answer; a new one can be made on the spot. */
const { form, field } = defineProps<{ form: Form; field: Field }>()
const emit = defineEmits<{ change: [column: string] }>()

const NEW = '+'
const workspace = useWorkspace()
const list = computed(() => workspace.list(form.list))
const isMaking = ref(false)
const name = ref('')
const isUnknown = computed(() => field.column !== '' && !list.value?.columns.some(({ key }) => key === field.column))

function choose(value: string): void {
  isMaking.value = value === NEW
  if (isMaking.value) name.value = fieldTitle(field)
  else emit('change', value)
}

async function make(): Promise<void> {
  const label = name.value.trim().slice(0, 200)
  if (list.value === null || label === '') return
  const taken = list.value.columns.map(({ key }) => key)
  const base = keyFrom(label)
  let key = base
  for (let count = 2; taken.includes(key) || key === 'email'; count++) key = `${base.slice(0, 36)}-${count}`
  await workspace.changeList(list.value.id, { columns: [...list.value.columns, { key, label }] })
  isMaking.value = false
  emit('change', key)
}

/** Column keys are small letters, digits and hyphens. */
function keyFrom(label: string): string {
  const plain = label
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^[^a-z]+/, '')
    .replace(/-$/, '')
    .slice(0, 36)
  return plain === '' ? 'answer' : plain
}
</script>

<template>
  <label class="field">
    <span class="name">Kept in the list’s column</span>
    <select
      class="plain-select"
      :value="isMaking ? NEW : field.column"
      @change="choose(($event.target as HTMLSelectElement).value)"
    >
      <option value="">in none</option>
      <option v-for="column in list?.columns ?? []" :key="column.key" :value="column.key">{{ column.label }}</option>
      <option v-if="isUnknown" :value="field.column">{{ field.column }} (not in the list yet)</option>
      <option :value="NEW">a new column …</option>
    </select>
  </label>
  <form v-if="isMaking" class="row" @submit.prevent="make">
    <input v-model="name" class="plain-input name" aria-label="Name of the new column" />
    <button class="plain-button" type="submit">Make it</button>
  </form>
  <p v-else-if="isUnknown" class="problem small">
    The list has no column “{{ field.column }}”.
    <button type="button" class="plain-button" @click="((name = fieldTitle(field)), (isMaking = true))">
      Make one
    </button>
  </p>
</template>

<style scoped>
.name {
  flex: 1;
}
</style>

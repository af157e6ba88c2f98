<script setup lang="ts">
import { ElButton, ElInput } from 'element-plus'
import { computed, ref } from 'vue'
import { columnKey, type Field, fieldTitle, type Form } from '#core/form'
import Labelled from '../../../controls/Labelled.vue'
import Select from '../../../controls/Select.vue'
import { useWorkspace } from '../../../data'

/** The column of the list that keeps the answer; a new one can be made on the spot. */
const { form, field } = defineProps<{ form: Form; field: Field }>()
const emit = defineEmits<{ change: [column: string] }>()

const NEW = '+'
const workspace = useWorkspace()
const list = computed(() => workspace.list(form.list))
const isMaking = ref(false)
const name = ref('')
const isUnknown = computed(() => field.column !== '' && !list.value?.columns.some(({ key }) => key === field.column))

const columns = computed(() => [
  { value: '', label: 'nowhere' },
  ...(list.value?.columns ?? []).map(({ key, label }) => ({ value: key, label })),
  ...(isUnknown.value ? [{ value: field.column, label: `${field.column} (not in the list yet)` }] : []),
  { value: NEW, label: 'a new column …' },
])

function choose(value: string): void {
  isMaking.value = value === NEW
  if (isMaking.value) name.value = fieldTitle(field)
  else emit('change', value)
}

async function make(): Promise<void> {
  const label = name.value.trim().slice(0, 200)
  if (list.value === null || label === '') return
  const key = columnKey(
    label,
    list.value.columns.map((column) => column.key),
  )
  await workspace.addColumns(list.value.id, [{ key, label }])
  isMaking.value = false
  emit('change', key)
}
</script>

<template>
  <Labelled label="Kept in the list’s column">
    <Select :model-value="isMaking ? NEW : field.column" :options="columns" @update:model-value="choose" />
  </Labelled>
  <form novalidate v-if="isMaking" class="row" @submit.prevent="make">
    <ElInput v-model="name" class="name" aria-label="Name of the new column" />
    <ElButton native-type="submit">Make it</ElButton>
  </form>
  <p v-else-if="isUnknown" class="problem small">
    The list has no column “{{ field.column }}”.
    <ElButton link type="primary" @click="((name = fieldTitle(field)), (isMaking = true))">Make one</ElButton>
  </p>
</template>

<style scoped>
.name {
  flex: 1;
}
</style>

<script setup lang="ts">
import { ElDatePicker, ElInput } from 'element-plus'
import { computed } from 'vue'
import { type Column, oddValue } from '#core/list'
import { MAX_VALUE_LENGTH } from '#core/text'
import Labelled from '../controls/Labelled.vue'
import Select from '../controls/Select.vue'

/** What somebody has in a column, edited as the column's kind asks for. A value that does not fit is kept, and said. */
const value = defineModel<string>({ required: true })
const { column } = defineProps<{ column: Column }>()

const odd = computed(() => oddValue(column, value.value ?? ''))
/** One that was kept before stays to be chosen. */
const choices = computed(() => {
  const offered = column.kind === 'yes-no' ? ['yes', 'no'] : (column.choices ?? [])
  const all = offered.includes(value.value) || value.value === '' ? offered : [...offered, value.value]
  return [{ value: '', label: 'nothing' }, ...all.map((one) => ({ value: one, label: one }))]
})
const isDay = computed(() => value.value === '' || odd.value === null)
</script>

<template>
  <Labelled :label="column.label" :hint="odd ?? ''">
    <Select
      v-if="column.kind === 'yes-no' || (column.kind === 'choice' && choices.length > 1)"
      v-model="value"
      :options="choices"
    />
    <ElDatePicker
      v-else-if="column.kind === 'date' && isDay"
      :model-value="value"
      value-format="YYYY-MM-DD"
      @update:model-value="value = $event ?? ''"
    />
    <ElInput
      v-else
      v-model="value"
      :maxlength="MAX_VALUE_LENGTH"
      :inputmode="column.kind === 'number' ? 'decimal' : column.kind === 'web-address' ? 'url' : 'text'"
    />
  </Labelled>
</template>

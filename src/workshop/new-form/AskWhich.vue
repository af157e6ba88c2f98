<script setup lang="ts">
import { computed } from 'vue'
import Choice from '../controls/Choice.vue'
import Select from '../controls/Select.vue'
import { NEW } from './list-pick'

/** One of those that are there, or a new one; nothing where none is there yet. */
const { all, newOne } = defineProps<{
  name: string
  question: string
  all: readonly { id: string; name: string }[]
  placeholder: string
  newOne: string
}>()
const key = defineModel<string>({ required: true })
/** So many stand side by side; more are a menu. */
const FEW = 10
const choices = computed(() => [
  ...all.map(({ id, name }) => ({ value: id, label: name })),
  { value: NEW, label: newOne },
])
</script>

<template>
  <Select v-if="choices.length > FEW" v-model="key" :label="question" :placeholder="placeholder" :options="choices" />
  <Choice v-else-if="all.length > 0" v-model="key" :name="name" :label="question" :options="choices" />
</template>

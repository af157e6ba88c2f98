<script setup lang="ts">
import { ElCheckbox } from 'element-plus'
import { computed } from 'vue'
import Select from '../controls/Select.vue'
import type { Surroundings, Visitor } from './scenes'

/** Who looks at the form, and what stands around it. */
const visitor = defineModel<Visitor>('visitor', { required: true })
const surroundings = defineModel<Surroundings>('surroundings', { required: true })
const { surroundingsOffered } = defineProps<{ surroundingsOffered: Surroundings[] }>()
const isMeddlesome = defineModel<boolean>('isMeddlesome', { required: true })

const visitors: { value: Visitor; label: string }[] = [
  { value: 'new', label: 'As it opens' },
  { value: 'everyday', label: 'Filled in' },
  { value: 'long', label: 'Long answers' },
  { value: 'errors', label: 'With errors' },
  { value: 'known', label: 'Already on the list' },
]
const surroundingsNames: Record<Surroundings, string> = {
  none: 'As a page of its own',
  site: 'On the site’s colours',
  light: 'On white',
  dark: 'On dark',
}
const offered = computed(() => surroundingsOffered.map((value) => ({ value, label: surroundingsNames[value] })))
</script>

<template>
  <div class="row options">
    <Select v-model="visitor" class="menu" label="The form is" :options="visitors" />
    <Select
      v-if="offered.length > 1"
      v-model="surroundings"
      class="menu wide"
      label="Surroundings"
      :options="offered"
    />
    <ElCheckbox v-if="surroundings !== 'none'" v-model="isMeddlesome">Among styles that interfere</ElCheckbox>
  </div>
</template>

<style scoped>
.options {
  gap: var(--gap-1) var(--gap-3);
}
.menu {
  width: 160px;
}
.wide {
  width: 190px;
}
</style>

<script setup lang="ts">
import type { Surroundings, Visitor } from './scenes'

/** Who looks at the form, and what stands around it. */
const visitor = defineModel<Visitor>('visitor', { required: true })
const surroundings = defineModel<Surroundings>('surroundings', { required: true })
defineProps<{ surroundingsOffered: Surroundings[] }>()
const isMeddlesome = defineModel<boolean>('isMeddlesome', { required: true })
const showsAll = defineModel<boolean>('showsAll', { required: true })

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
</script>

<template>
  <div class="row options">
    <label class="row small"
      ><span class="only-heard">The form is</span>
      <select v-model="visitor" class="plain-select">
        <option v-for="one in visitors" :key="one.value" :value="one.value">{{ one.label }}</option>
      </select>
    </label>
    <label v-if="surroundingsOffered.length > 1" class="row small"
      ><span class="only-heard">Surroundings</span>
      <select v-model="surroundings" class="plain-select">
        <option v-for="one in surroundingsOffered" :key="one" :value="one">{{ surroundingsNames[one] }}</option>
      </select>
    </label>
    <label v-if="surroundings !== 'none'" class="row small"
      ><input v-model="isMeddlesome" type="checkbox" /> With a site’s styles in the way</label
    >
    <label class="row small"><input v-model="showsAll" type="checkbox" /> All widths</label>
  </div>
</template>

<style scoped>
.options {
  gap: var(--gap-1) var(--gap-3);
}
input {
  accent-color: var(--moss);
}
.plain-select {
  min-height: 32px;
}
</style>

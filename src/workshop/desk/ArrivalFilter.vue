<script setup lang="ts">
import { computed } from 'vue'
import type { Verdict } from '#core/journal'
import Select from '../controls/Select.vue'
import { byName, useWorkspace } from '../data'

/** Which sign-ups are shown. */
const verdict = defineModel<Verdict | 'all'>('verdict', { required: true })
const form = defineModel<string>('form', { required: true })
const workspace = useWorkspace()
const verdicts: { value: Verdict | 'all'; label: string }[] = [
  { value: 'all', label: 'All' },
  { value: 'joined', label: 'Joined' },
  { value: 'confirm-first', label: 'To confirm' },
  { value: 'already-on-list', label: 'Already there' },
  { value: 'bot', label: 'Held back' },
]
const forms = computed(() => [
  { value: 'all', label: 'All forms' },
  ...byName(workspace.forms).map(({ id, name }) => ({ value: id as string, label: name })),
])
</script>

<template>
  <div class="filter">
    <Select
      :model-value="verdict"
      label="Which sign-ups"
      :options="verdicts"
      @update:model-value="verdict = $event === '' ? 'all' : $event"
    />
    <Select
      :model-value="form"
      label="Of which form"
      :options="forms"
      @update:model-value="form = $event === '' ? 'all' : $event"
    />
  </div>
</template>

<style scoped>
.filter {
  display: grid;
  grid-template-columns: 130px minmax(0, 1fr);
  gap: var(--gap-2);
  margin-bottom: var(--gap-2);
}
</style>

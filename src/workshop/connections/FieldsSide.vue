<script setup lang="ts">
import { ArrowRight } from '@lucide/vue'
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import type { List } from '#core/list'
import { serviceOf } from '#core/connection'
import Select from '../controls/Select.vue'
import type { NewHandOver } from './new-hand-over'

/** Our columns and a service's fields side by side: which fills which. */
const { inHand, list } = defineProps<{ inHand: NewHandOver; list: List }>()
const { fields, matches, unfilled, way, isBusy } = inHand
const theirs = computed(() => {
  const direct = way.value?.kind === 'form-post' ? way.value.fields : null
  return direct ?? fields.value ?? []
})
const options = computed(() => [
  { value: '', label: 'does not go there' },
  ...theirs.value.map(({ key, name }) => ({ value: key, label: name === key ? name : `${name} (${key})` })),
])
const canMake = computed(() => way.value !== null && serviceOf(way.value)?.requests.makeField !== undefined)
</script>

<template>
  <section class="fields" aria-labelledby="fields-title">
    <h2 id="fields-title">What goes along</h2>
    <div class="sides" role="list">
      <div class="pair" role="listitem">
        <strong>Email</strong><ArrowRight :size="16" aria-hidden="true" /><span>the address</span>
      </div>
      <div v-for="{ key, label } in list.columns" :key="key" class="pair" role="listitem">
        <strong>{{ label }}</strong>
        <ArrowRight :size="16" aria-hidden="true" />
        <Select
          :model-value="matches[key] ?? ''"
          :label="`Where ${label} goes`"
          :options="options"
          @update:model-value="matches = { ...matches, [key]: String($event) }"
        />
        <ElButton v-if="canMake && !matches[key]" text :loading="isBusy" @click="inHand.makeField(key)"
          >Make a field there</ElButton
        >
      </div>
    </div>
    <p v-if="unfilled.length > 0" class="problem" role="alert">
      {{ unfilled.map(({ name }) => `“${name}”`).join(', ') }}
      {{ unfilled.length === 1 ? 'is' : 'are' }} required there, and nothing fills
      {{ unfilled.length === 1 ? 'it' : 'them' }}: nobody would be taken.
    </p>
  </section>
</template>

<style scoped>
.fields {
  display: grid;
  gap: var(--gap-3);
}
h2,
p {
  margin: 0;
}
.sides {
  display: grid;
  grid-template-columns: minmax(120px, 220px) 16px minmax(0, 300px) auto;
  gap: var(--gap-2) var(--gap-3);
  justify-content: start;
}
.pair {
  display: grid;
  grid-template-columns: subgrid;
  grid-column: 1 / -1;
  align-items: center;
  min-height: 34px;
}
strong {
  overflow: hidden;
  font-weight: 500;
  text-overflow: ellipsis;
}
</style>

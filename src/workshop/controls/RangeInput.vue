<script setup lang="ts">
import TypedInput from './TypedInput.vue'

/** A length or share to set by dragging, by keys, or as a number. */
const { least, most } = defineProps<{
  name: string
  unit: string
  least: number
  most: number
  value: number
  step?: number
}>()
const emit = defineEmits<{ change: [value: number] }>()

function set(typed: string): void {
  const wanted = typed === '' ? NaN : Math.round(Number(typed))
  if (Number.isFinite(wanted)) emit('change', Math.min(most, Math.max(least, wanted)))
}
</script>

<template>
  <div class="range">
    <span class="name">{{ name }}</span>
    <input
      type="range"
      :aria-label="name"
      :min="least"
      :max="most"
      :step="step ?? 1"
      :value="value"
      @input="set(($event.target as HTMLInputElement).value)"
    />
    <TypedInput
      type="number"
      :aria-label="`${name}, ${unit}`"
      :min="least"
      :max="most"
      :step="step ?? 1"
      :value="value"
      @change="set"
    />
    <span class="quiet small">{{ unit }}</span>
  </div>
</template>

<style scoped>
.range {
  display: grid;
  grid-template-columns: 92px 1fr 62px 20px;
  gap: var(--gap-2);
  align-items: center;
}
.name {
  font-size: var(--text-s);
}
input[type='range'] {
  width: 100%;
  min-width: 0;
  accent-color: var(--moss);
}
input[type='number'] {
  min-height: 32px;
  width: 100%;
  padding: 2px 6px;
  border: 1px solid var(--edge);
  border-radius: var(--corner);
  background: var(--sheet);
  color: var(--ink);
  font-size: var(--text-s);
}
</style>

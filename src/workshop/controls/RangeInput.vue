<script setup lang="ts">
import { ElSlider } from 'element-plus'
import NumberInput from './NumberInput.vue'

/** A length or share to set by dragging, by keys, or as a number. */
const { value } = defineProps<{
  name: string
  /** Where the name alone does not say of what. */ label?: string
  unit: string
  least: number
  most: number
  value: number
  step?: number
}>()
const emit = defineEmits<{ change: [value: number] }>()

function set(wanted: number | number[] | null): void {
  if (typeof wanted === 'number' && wanted !== value) emit('change', wanted)
}
</script>

<template>
  <div class="range">
    <span class="name">{{ name }}</span>
    <ElSlider
      :aria-label="label ?? name"
      :min="least"
      :max="most"
      :step="step ?? 1"
      :model-value="value"
      :show-tooltip="false"
      @input="set"
    />
    <NumberInput
      :label="`${label ?? name}, ${unit}`"
      :least="least"
      :most="most"
      :step="step"
      :value="value"
      @change="set"
    />
    <span class="quiet small">{{ unit }}</span>
  </div>
</template>

<style scoped>
.range {
  display: grid;
  grid-template-columns: 92px 1fr 78px 20px;
  gap: var(--gap-3);
  align-items: center;
}
.name {
  font-size: var(--text-s);
}
</style>

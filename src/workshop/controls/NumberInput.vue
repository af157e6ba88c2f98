<script setup lang="ts">
import { ElInputNumber } from 'element-plus'

/** A number within bounds, whole unless fractions are allowed. It counts when its owner is done with it, or with each press of an arrow. */
const { least = -Infinity, most = Infinity } = defineProps<{
  value: number | null
  least?: number
  most?: number
  step?: number
  allowsFractions?: boolean
  label?: string
}>()
const emit = defineEmits<{ change: [value: number | null] }>()
</script>

<template>
  <ElInputNumber
    :model-value="value"
    :min="least"
    :max="most"
    :step="step ?? 1"
    :precision="allowsFractions ? undefined : 0"
    :aria-label="label"
    controls-position="right"
    @change="emit('change', $event ?? null)"
  />
</template>

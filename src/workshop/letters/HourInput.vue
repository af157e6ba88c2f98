<script setup lang="ts">
import { ElTimePicker } from 'element-plus'

/** An hour and minute of the day, such as 09:30. */
const time = defineModel<string>({ required: true })
defineProps<{ label: string }>()
</script>

<template>
  <ElTimePicker
    :model-value="time"
    class="hour"
    value-format="HH:mm"
    format="HH:mm"
    :clearable="false"
    :aria-label="label"
    @update:model-value="(value: string | null) => value && (time = value)"
  />
</template>

<style scoped>
.hour {
  width: 120px;
}
</style>

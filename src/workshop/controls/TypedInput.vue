<script setup lang="ts">
import { ElInput } from 'element-plus'
import { ref, watch } from 'vue'

/**
 * An input whose text counts when its owner is done with it: on leaving it, or with Enter. What is typed until then
 * stands, however often what is around it is drawn again. A text that was refused stands too, to be mended; one that
 * was taken is shown as it was taken.
 */
const { value, isRefused } = defineProps<{ value: string | null; isRefused?: boolean }>()
const emit = defineEmits<{ change: [text: string] }>()

const typed = ref('')
watch([() => value, () => isRefused], () => isRefused || (typed.value = value ?? ''), { immediate: true })
</script>

<template>
  <ElInput v-model="typed" :aria-invalid="isRefused || undefined" @change="emit('change', typed)" />
</template>

<script setup lang="ts">
import { nextTick, ref, watch } from 'vue'

/**
 * An input whose text counts when its owner is done with it. What is typed until then stands, however often the
 * picture around it is drawn again: Vue writes a bound value anew on every draw, whatever was being typed.
 * A text that was refused stands too, to be mended; one that was taken is shown as it was taken.
 */
const { value, isRefused } = defineProps<{ value: string | number | null; isRefused?: boolean }>()
const emit = defineEmits<{ change: [text: string] }>()

const typed = ref('')
const follow = () => (typed.value = String(value ?? ''))
watch([() => value, () => isRefused], () => isRefused || follow(), { immediate: true })

async function finish(): Promise<void> {
  emit('change', String(typed.value))
  await nextTick()
  if (!isRefused) follow()
}
</script>

<template>
  <input v-model="typed" :aria-invalid="isRefused || undefined" @change="finish" />
</template>

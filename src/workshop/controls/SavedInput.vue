<script setup lang="ts">
import { ElInput } from 'element-plus'
import { ref, watch } from 'vue'

/**
 * A text that is saved when its owner is done with it: on leaving the field or with Enter. What is typed until then
 * stands; the plain component would write the saved text back at each key.
 */
const { value } = defineProps<{ value: string }>()
const emit = defineEmits<{ change: [text: string] }>()

const typed = ref(value)
watch(
  () => value,
  (saved) => (typed.value = saved),
)
</script>

<template>
  <ElInput v-model="typed" @change="emit('change', typed)" />
</template>

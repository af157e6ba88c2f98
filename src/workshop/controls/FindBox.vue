<script setup lang="ts">
import { ElInput } from 'element-plus'

/** Finds some among many by what is typed, and tells how many they are. */
const words = defineModel<string>({ required: true })
defineProps<{ label: string; count: number; of: number }>()
</script>

<template>
  <div class="row">
    <ElInput v-model="words" class="find" type="search" clearable :placeholder="label" :aria-label="label" />
    <slot />
    <span class="quiet small" role="status">{{ count }} of {{ of }}</span>
  </div>
</template>

<style scoped>
.find {
  width: 280px;
}
</style>

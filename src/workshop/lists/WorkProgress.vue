<script setup lang="ts">
import { ElButton, ElProgress } from 'element-plus'
import type { LongWork } from './long-work'

/** What is going on, how far it is, and its end. */
const { work } = defineProps<{ work: LongWork }>()
</script>

<template>
  <div v-if="work.current.value" class="progress sheet" role="status">
    <span>{{ work.current.value.what }}</span>
    <ElProgress
      :percentage="Math.round(work.current.value.share * 100)"
      :aria-label="work.current.value.what"
      color="var(--moss)"
    />
    <ElButton @click="work.stop()">Stop</ElButton>
  </div>
</template>

<style scoped>
.progress {
  display: grid;
  grid-template-columns: auto minmax(120px, 1fr) auto;
  gap: var(--gap-4);
  align-items: center;
  padding: var(--gap-2) var(--gap-4);
}
</style>

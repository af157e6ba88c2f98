<script setup lang="ts">
import { Copy } from '@lucide/vue'
import { ElButton, ElInput } from 'element-plus'
import { useNotices } from '../notices'

/** One line that its owner takes elsewhere, with a press that copies it. */
const { value, what } = defineProps<{ value: string; /** Such as “address”. */ what: string }>()
const notices = useNotices()

async function copy(): Promise<void> {
  await navigator.clipboard.writeText(value)
  notices.done(`The ${what} is copied.`)
}
</script>

<template>
  <span class="copied">
    <ElInput :model-value="value" readonly :aria-label="`The ${what}`" />
    <ElButton :aria-label="`Copy the ${what}`" @click="copy()"><Copy :size="16" /></ElButton>
  </span>
</template>

<style scoped>
.copied {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: var(--gap-2);
  align-items: center;
  width: 100%;
}
</style>

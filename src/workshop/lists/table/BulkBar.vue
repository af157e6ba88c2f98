<script setup lang="ts">
import Changes from '../../controls/Changes.vue'
import { Download, Eraser, Forward, RotateCcw, Tag, Trash2, X } from '@lucide/vue'
import { ElButton } from 'element-plus'
import { peopleCount } from '../people-count'

/** What can be done with those who are chosen. */
defineProps<{ count: number; isBusy: boolean }>()
defineEmits<{ act: [what: 'tag' | 'set' | 'copy' | 'remove' | 'restore' | 'erase' | 'save']; clear: [] }>()
</script>

<template>
  <div class="bulk sheet" role="region" aria-label="What to do with those who are chosen">
    <strong role="status">{{ peopleCount(count) }} chosen</strong>
    <span class="row">
      <Changes>
        <ElButton :disabled="isBusy || undefined" @click="$emit('act', 'tag')"
          ><Tag :size="16" /><span>Tags</span></ElButton
        >
        <ElButton :disabled="isBusy || undefined" @click="$emit('act', 'set')"><span>Set a value</span></ElButton>
        <ElButton :disabled="isBusy || undefined" @click="$emit('act', 'copy')"
          ><Forward :size="16" /><span>Copy or move</span></ElButton
        >
        <ElButton :disabled="isBusy || undefined" @click="$emit('act', 'remove')"
          ><Trash2 :size="16" /><span>Take off the list</span></ElButton
        >
        <ElButton :disabled="isBusy || undefined" @click="$emit('act', 'restore')"
          ><RotateCcw :size="16" /><span>Put back</span></ElButton
        >
      </Changes>
      <ElButton :disabled="isBusy" @click="$emit('act', 'save')"
        ><Download :size="16" /><span>Save as a file</span></ElButton
      >
      <Changes>
        <ElButton :disabled="isBusy || undefined" @click="$emit('act', 'erase')"
          ><Eraser :size="16" /><span>Erase</span></ElButton
        >
      </Changes>
    </span>
    <ElButton text aria-label="Choose nobody" @click="$emit('clear')"><X :size="16" /></ElButton>
  </div>
</template>

<style scoped>
.bulk {
  position: sticky;
  z-index: 2;
  inset-block-start: 56px;
  display: flex;
  gap: var(--gap-2) var(--gap-4);
  align-items: center;
  justify-content: space-between;
  padding: var(--gap-2) var(--gap-4);
  border-color: var(--moss);
}
.row {
  flex-wrap: wrap;
  gap: var(--gap-2);
}
.row :deep(.el-button) {
  margin: 0;
}
</style>

<script setup lang="ts">
import { ElButton } from 'element-plus'
import { leaveDemo } from '../data'
import { closeDemo } from './demo'

/** Says, wherever one is in the demo, that it is one, and is its way out. */
const leave = () => leaveDemo(closeDemo)
</script>

<template>
  <div class="demo" role="status">
    <span
      ><b>You are looking round in the demo.</b> Try anything: nothing here is sent, and your own work stays as it
      is.</span
    >
    <ElButton size="small" @click="leave">Leave the demo</ElButton>
  </div>
</template>

<style scoped>
.demo {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--gap-1) var(--gap-4);
  padding: var(--gap-2) var(--page-edge);
  border-bottom: 1px solid var(--hairline);
  background: var(--moss-wash);
}
</style>

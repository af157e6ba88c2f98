<script setup lang="ts">
import { ElButton } from 'element-plus'
import type { Finding } from '#core/checkup'
import { useMending } from './mending'

/** What a look at a station found: what has to be mended, and what is worth a thought. Nothing when all is well. */
defineProps<{ findings: Finding[] }>()
const mend = useMending()
</script>

<template>
  <ul v-if="findings.length > 0" :class="{ work: findings.some(({ weight }) => weight !== 'hint') }" role="status">
    <li v-for="finding in findings" :key="finding.code + finding.about">
      {{ finding.message }} <span v-if="finding.reason" class="quiet small">{{ finding.reason }}</span>
      <ElButton v-if="finding.mend" size="small" @click="mend(finding)">{{ finding.mend.name }}</ElButton>
    </li>
  </ul>
</template>

<style scoped>
ul {
  display: grid;
  gap: var(--gap-2);
  margin: 0;
  padding: var(--gap-3) var(--gap-4);
  border-inline-start: 4px solid var(--edge);
  background: var(--sheet);
  list-style: none;
}
.work {
  border-color: var(--raspberry);
  background: var(--raspberry-wash);
}
</style>

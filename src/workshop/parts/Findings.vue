<script setup lang="ts">
import type { Finding } from '#core/checkup'

/** What has to be mended at a station before the form can be published. Nothing when all is well. */
defineProps<{ findings: Finding[] }>()
</script>

<template>
  <ul v-if="findings.length > 0" role="alert">
    <li v-for="finding in findings" :key="finding.code + finding.about">{{ finding.message }}</li>
  </ul>
</template>

<style scoped>
ul {
  display: grid;
  gap: var(--gap-2);
  margin: 0;
  padding: var(--gap-3) var(--gap-4);
  border-inline-start: 4px solid var(--raspberry);
  background: var(--raspberry-wash);
  list-style: none;
}
</style>

<script setup lang="ts">
import { ElButton } from 'element-plus'
import { RouterLink } from 'vue-router'
import type { Finding } from '#core/checkup'
import type { Form } from '#core/form'
import { type Station, stationNames } from '#core/station'
import { useMending } from '../controls'

/** What speaks against publishing, before it is pressed: each with its mend, or the way to where it is mended. It forbids nothing. */
defineProps<{ form: Form; findings: Finding[]; current: Station }>()
const mend = useMending()
</script>

<template>
  <section class="against small" aria-label="Against publishing">
    <b>Against publishing</b>
    <ul>
      <li v-for="finding in findings" :key="finding.code + finding.about">
        <span>{{ finding.message }}</span>
        <ElButton v-if="finding.mend" link type="primary" @click="mend(finding)">{{ finding.mend.name }}</ElButton>
        <RouterLink
          v-else-if="finding.station !== current"
          :to="{ name: 'form', params: { id: form.id, station: finding.station } }"
          replace
          >To {{ stationNames[finding.station] }}</RouterLink
        >
      </li>
    </ul>
  </section>
</template>

<style scoped>
.against {
  display: flex;
  gap: var(--gap-1) var(--gap-4);
  padding: var(--gap-2) var(--gap-4);
  border-inline-start: 4px solid var(--raspberry);
  background: var(--raspberry-wash);
}
b {
  flex: none;
}
ul {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-1);
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  flex-wrap: wrap;
  gap: 0 var(--gap-3);
  align-items: baseline;
}
.el-button {
  height: auto;
  padding: 0;
  font-size: inherit;
  white-space: normal;
  text-align: start;
}
@media (max-width: 560px) {
  .against {
    display: grid;
  }
}
</style>

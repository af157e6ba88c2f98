<script setup lang="ts">
import { computed } from 'vue'

/** Counts of the last days, a bar a day; words beside it say the same. */
const { counts } = defineProps<{ counts: readonly number[]; /** Where more is worse. */ isBad?: boolean }>()
/** One a day is no full bar. */
const LEAST_FULL = 4
const most = computed(() => Math.max(LEAST_FULL, ...counts))
</script>

<template>
  <div class="bars" :class="{ bad: isBad }" aria-hidden="true">
    <span v-for="(count, at) in counts" :key="at" :style="{ height: `${Math.max(4, (count / most) * 100)}%` }" />
  </div>
</template>

<style scoped>
.bars {
  display: grid;
  grid-auto-columns: minmax(0, 1fr);
  grid-auto-flow: column;
  gap: 3px;
  align-items: end;
  height: 28px;
  border-bottom: 2px solid var(--ink);
}
.bars span {
  background: var(--moss);
}
.bad span {
  background: var(--raspberry);
}
</style>

<script setup lang="ts">
import { computed } from 'vue'
import type { List } from '#core/list'
import { useGrowth, weekOf } from './growth'

/** Who came in the last seven days, a bar a day, and in words. */
const { list } = defineProps<{ list: List }>()
const { rows } = useGrowth(() => list.id)
const week = computed(() => weekOf(rows.value))
/** One a day is no full bar. */
const LEAST_FULL = 4
const most = computed(() => Math.max(LEAST_FULL, ...week.value.counts))
</script>

<template>
  <div class="growth">
    <div class="bars" aria-hidden="true">
      <span v-for="(count, at) in week.counts" :key="at" :style="{ height: `${Math.max(4, (count / most) * 100)}%` }" />
    </div>
    <!-- Until everybody is read, none of them is known. -->
    <span class="quiet small">{{ week.words }}</span>
  </div>
</template>

<style scoped>
.growth {
  display: grid;
  gap: 2px;
}
.bars {
  display: grid;
  grid-template-columns: repeat(7, 1fr);
  gap: 4px;
  align-items: end;
  height: 28px;
  border-bottom: 2px solid var(--ink);
}
.bars span {
  background: var(--moss);
}
</style>

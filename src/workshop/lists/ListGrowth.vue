<script setup lang="ts">
import { computed } from 'vue'
import type { List } from '#core/list'
import { useArrivals, useWorkspace } from '../data'

/** Who joined in the last seven days, a bar a day, and in words. */
const { list } = defineProps<{ list: List }>()
const workspace = useWorkspace()
const arrivals = useArrivals()
const DAY_MS = 86_400_000
const DAYS = 7
const days = computed(() => {
  const end = new Date()
  end.setHours(24, 0, 0, 0)
  const counts = Array.from({ length: DAYS }, () => 0)
  for (const form of workspace.forms.filter((one) => one.list === list.id))
    for (const { at, verdict } of arrivals.of(form.id)) {
      const ago = Math.floor((end.getTime() - Date.parse(at)) / DAY_MS)
      if ((verdict === 'joined' || verdict === 'confirm-first') && ago >= 0 && ago < DAYS)
        counts[DAYS - 1 - ago] = counts[DAYS - 1 - ago]! + 1
    }
  return counts
})
const sum = computed(() => days.value.reduce((all, one) => all + one, 0))
/** One sign-up a day is no full bar. */
const LEAST_FULL = 4
const most = computed(() => Math.max(LEAST_FULL, ...days.value))
</script>

<template>
  <div class="growth">
    <div class="bars" aria-hidden="true">
      <span v-for="(count, at) in days" :key="at" :style="{ height: `${Math.max(4, (count / most) * 100)}%` }" />
    </div>
    <!-- Until the sign-ups of late are read, none of them is known. -->
    <span class="quiet small">{{
      arrivals.newest === null ? 'Counting …' : `${sum === 0 ? 'Nobody' : sum} signed up in 7 days`
    }}</span>
  </div>
</template>

<style scoped>
.growth {
  display: grid;
  gap: var(--gap-1);
}
.bars {
  display: grid;
  grid-template-columns: repeat(7, 1fr);
  gap: 4px;
  align-items: end;
  height: 40px;
  border-bottom: 2px solid var(--ink);
}
.bars span {
  background: var(--moss);
}
</style>

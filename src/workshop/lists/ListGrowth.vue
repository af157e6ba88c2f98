<script setup lang="ts">
import { computed } from 'vue'
import type { List } from '#core/list'
import DayBars from '../charts/DayBars.vue'
import { useGrowth, weekOf } from './growth'

/** Who came in the last seven days, a bar a day, and in words. */
const { list } = defineProps<{ list: List }>()
const { rows } = useGrowth(() => list.id)
const week = computed(() => weekOf(rows.value))
</script>

<template>
  <div class="growth">
    <DayBars :counts="week.counts" />
    <!-- Until everybody is read, none of them is known. -->
    <span class="quiet small">{{ week.words }}</span>
  </div>
</template>

<style scoped>
.growth {
  display: grid;
  gap: 2px;
}
</style>

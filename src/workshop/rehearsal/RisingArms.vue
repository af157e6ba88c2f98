<script setup lang="ts">
import { type Station, stationNames, stations } from '#core/station'
import type { Signal } from '#core/line'
import SignalArm from '../line/SignalArm.vue'

/** The five signals of one try, small, on their track. */
defineProps<{ signals: Record<Station, Signal> }>()
</script>

<template>
  <ol aria-label="The line of this try">
    <li v-for="station in stations" :key="station">
      <SignalArm :signal="signals[station]" :size="26" /><span>{{ stationNames[station] }}</span>
    </li>
  </ol>
</template>

<style scoped>
ol {
  display: grid;
  grid-template-columns: repeat(5, minmax(0, 90px));
  margin: 0;
  padding: 0;
  list-style: none;
  font-size: var(--text-s);
}
li {
  border-bottom: 2px solid var(--ink);
}
svg {
  overflow: visible;
}
</style>

<script setup lang="ts">
import { computed } from 'vue'
import type { Spot } from '#core/spot'
import { vHint } from '../controls'
import SignalArm from '../line/SignalArm.vue'
import { useLine } from '../line/line'
import { stationNames } from '#core/station'

/** The line of one spot, small: five arms. */
const { spot } = defineProps<{ spot: Spot }>()
const { lines } = useLine(() => spot.form)
const line = computed(() => lines.value.find((one) => one.spot.id === spot.id)?.line ?? [])
</script>

<template>
  <span class="signals">
    <span v-for="one in line" :key="one.station" v-hint="`${stationNames[one.station]}: ${one.reason}`">
      <SignalArm :signal="one.signal" :size="24" />
    </span>
  </span>
</template>

<style scoped>
/* As high as an arm, before it is read. */
.signals {
  min-height: 24px;
  display: inline-flex;
  gap: 2px;
}
</style>

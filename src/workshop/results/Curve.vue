<script setup lang="ts">
import { computed } from 'vue'

/** Sign-ups of the last days as a small curve; words beside it say the same. */
const { counts } = defineProps<{ counts: readonly number[] }>()
const WIDTH = 96
const HEIGHT = 22
/** One sign-up a day is no full height. */
const LEAST_FULL = 3
const path = computed(() => {
  const most = Math.max(LEAST_FULL, ...counts)
  return counts
    .map((count, at) => {
      const [x, y] = [(at / Math.max(1, counts.length - 1)) * WIDTH, HEIGHT - 1 - (count / most) * (HEIGHT - 3)]
      return `${at === 0 ? 'M' : 'L'}${x.toFixed(1)} ${y.toFixed(1)}`
    })
    .join('')
})
</script>

<template>
  <svg :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" :width="WIDTH" :height="HEIGHT" aria-hidden="true">
    <path :d="path" fill="none" stroke="var(--moss)" stroke-width="1.5" stroke-linejoin="round" />
  </svg>
</template>

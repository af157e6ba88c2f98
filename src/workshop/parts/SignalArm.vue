<script setup lang="ts">
import { type Signal, signalWords } from '#core/line'

/** A railway arm: its angle says the state, its colour says it again, its title says it in words. */
const { signal, size = 34 } = defineProps<{ signal: Signal; size?: number }>()

const degrees: Record<Signal, number> = { empty: 90, 'needs-work': 0, ready: -45, proven: -90, changed: -90 }
</script>

<template>
  <svg class="arm" :class="signal" :width="size" :height="size" viewBox="0 0 34 34" role="img" :aria-label="signalWords[signal]">
    <title>{{ signalWords[signal] }}</title>
    <path class="post" d="M12 33V17" />
    <g :transform="`rotate(${degrees[signal]} 12 17)`">
      <template v-if="signal === 'changed'">
        <path class="blade" d="M12 13.500h6v7h-6z" />
        <path class="blade" d="M21.500 13.500h6v7h-6z" />
      </template>
      <path v-else class="blade" d="M12 13.500h16v7H12z" />
    </g>
    <circle class="pivot" cx="12" cy="17" r="3.200" />
  </svg>
</template>

<style scoped>
.post {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2.5;
}
.pivot {
  fill: var(--ink);
}
g {
  transition: transform 0.4s ease-out;
}
.blade {
  fill: var(--moss);
  stroke: var(--moss);
  stroke-width: 1.5;
  stroke-linejoin: round;
}
.empty .blade {
  fill: var(--paper);
  stroke: var(--edge);
}
.needs-work .blade,
.changed .blade {
  fill: var(--raspberry);
  stroke: var(--raspberry);
}
.ready .blade {
  fill: var(--moss-wash);
  stroke: var(--moss);
}
</style>

<script setup lang="ts">
import { type Signal, signalWords } from '#core/line'

/** A railway arm: its angle says the state, its colour says it again, its title says it in words. */
const { signal, size = 42 } = defineProps<{ signal: Signal; size?: number }>()

const degrees: Record<Signal, number> = { empty: 90, 'needs-work': 0, ready: -45, proven: -90, changed: -90 }
</script>

<template>
  <svg
    class="arm"
    :class="signal"
    :width="size"
    :height="size"
    viewBox="0 0 44 44"
    role="img"
    :aria-label="signalWords[signal]"
  >
    <title>{{ signalWords[signal] }}</title>
    <path class="post" d="M14 44V20" />
    <g :transform="`rotate(${degrees[signal]} 14 22)`">
      <template v-if="signal === 'changed'">
        <path class="blade" d="M12 18.500h7.500v7H12z" />
        <path class="blade" d="M26 17.500l9-.700v10.400l-9-.700z" />
      </template>
      <template v-else>
        <path class="blade" d="M12 18.500l23-1.700v10.400L12 25.500z" />
        <path class="band" d="M29 16.800v10.400" />
      </template>
    </g>
    <circle class="pivot" cx="14" cy="22" r="3.400" />
  </svg>
</template>

<style scoped>
.arm {
  display: block;
  flex: none;
}
.post {
  fill: none;
  stroke: var(--ink);
  stroke-width: 3;
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
.band {
  fill: none;
  stroke: var(--sheet);
  stroke-width: 2.5;
}
.empty .blade {
  fill: var(--sheet);
  stroke: var(--edge);
}
.empty .band {
  stroke: var(--edge);
  stroke-width: 1.5;
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
.ready .band {
  stroke: var(--moss);
  stroke-width: 1.5;
}
</style>

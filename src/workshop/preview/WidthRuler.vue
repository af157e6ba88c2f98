<script setup lang="ts">
import { computed } from 'vue'
import { widthStops } from './widths'

/** A ruler of widths: press a stop, drag the handle, or use the arrow keys. */
const width = defineModel<number>({ required: true })

const LEAST = 280
const MOST = 1280
const SNAP_PX = 8

/** Positions from 0 to 1000 on a logarithmic scale, so that the narrow stops do not crowd each other. */
const positionOf = (px: number) => Math.round((1000 * Math.log(px / LEAST)) / Math.log(MOST / LEAST))
const widthAt = (position: number) => Math.round(LEAST * (MOST / LEAST) ** (position / 1000))
const at = (px: number) => `${positionOf(px) / 10}%`

const position = computed({
  get: () => positionOf(width.value),
  set: (moved) => {
    const px = widthAt(moved)
    width.value = widthStops.find((stop) => Math.abs(stop.width - px) < SNAP_PX)?.width ?? px
  },
})
</script>

<template>
  <div class="ruler">
    <div class="scale">
      <input
        v-model.number="position"
        type="range"
        min="0"
        max="1000"
        step="5"
        aria-label="Width of the place, in pixels"
        :aria-valuetext="`${width} pixels`"
      />
      <button
        v-for="(stop, index) in widthStops"
        :key="stop.width"
        type="button"
        class="stop"
        :class="{ here: stop.width === width, first: index === 0 }"
        :style="{ left: at(stop.width) }"
        :aria-pressed="stop.width === width"
        @click="width = stop.width"
      >
        {{ stop.name }}
      </button>
    </div>
    <output>{{ width }} px</output>
  </div>
</template>

<style scoped>
.ruler {
  display: flex;
  container-type: inline-size;
  align-items: flex-start;
  gap: var(--gap-4);
}
.scale {
  position: relative;
  flex: 1;
  height: 48px;
  margin-inline: 8px 20px;
}
input {
  width: calc(100% + 14px);
  height: 18px;
  margin: 0 -7px;
  accent-color: var(--moss);
  cursor: ew-resize;
}
.stop {
  position: absolute;
  top: 20px;
  min-height: 24px;
  padding: 2px 4px;
  border: 0;
  border-top: 1px solid transparent;
  background: none;
  color: var(--quiet);
  font-size: var(--text-s);
  white-space: nowrap;
  cursor: pointer;
  transform: translateX(-50%);
}
.stop::before {
  content: '';
  position: absolute;
  top: -6px;
  left: 50%;
  height: 6px;
  border-inline-start: 1px solid var(--edge);
}
.stop.first {
  transform: translateX(-8px);
}
.stop.first::before {
  left: 8px;
}
.stop:hover,
.stop.here {
  color: var(--ink);
}
.stop.here {
  font-weight: 650;
}
/* Where the names would lie on each other, they stand in rows instead of under their ticks. */
@container (max-width: 500px) {
  .scale {
    display: flex;
    flex-wrap: wrap;
    gap: 0 var(--gap-2);
    height: auto;
    margin-inline-end: 0;
  }
  input {
    height: 24px;
  }
  .stop,
  .stop.first {
    position: static;
    padding: 2px 0;
    transform: none;
  }
  .stop::before {
    display: none;
  }
}
output {
  min-width: 58px;
  color: var(--quiet);
  font-size: var(--text-s);
  text-align: end;
}
</style>

<script setup lang="ts">
/** A ruler of widths: press a stop, drag the handle, or use the arrow keys. */
const width = defineModel<number>({ required: true })

const LEAST = 280
const MOST = 1280
const stops = [
  { width: 280, name: 'Side column' },
  { width: 360, name: 'Phone' },
  { width: 680, name: 'Text column' },
  { width: 1100, name: 'Footer' },
  { width: 1280, name: 'Page' },
]
const at = (px: number) => `${((px - LEAST) / (MOST - LEAST)) * 100}%`
</script>

<template>
  <div class="ruler">
    <div class="scale">
      <input v-model.number="width" type="range" :min="LEAST" :max="MOST" step="10" aria-label="Width of the place, in pixels" :aria-valuetext="`${width} pixels`" />
      <button
        v-for="(stop, index) in stops"
        :key="stop.width"
        type="button"
        class="stop"
        :class="{ here: stop.width === width, raised: index === 0 }"
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
  align-items: flex-start;
  gap: var(--gap-4);
}
.scale {
  position: relative;
  flex: 1;
  height: 48px;
  margin-inline: 34px 16px;
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
.stop.raised {
  transform: translateX(-78%);
}
.stop.raised::before {
  left: 78%;
}
.stop:nth-of-type(2) {
  transform: translateX(-12%);
}
.stop:nth-of-type(2)::before {
  left: 12%;
}
.stop:hover,
.stop.here {
  color: var(--ink);
}
.stop.here {
  font-weight: 650;
}
output {
  min-width: 58px;
  color: var(--quiet);
  font-size: var(--text-s);
  text-align: end;
}
</style>

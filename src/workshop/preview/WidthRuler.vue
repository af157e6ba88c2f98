<script setup lang="ts">
import { ElButton, ElCheckbox, ElSlider } from 'element-plus'
import { computed } from 'vue'
import { widthStops } from './widths'

/** A ruler of widths: press a stop, drag the handle, or use the arrow keys; or see all stops at once. */
const width = defineModel<number>({ required: true })
const showsAll = defineModel<boolean>('showsAll', { required: true })

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
      <ElSlider
        v-model="position"
        :min="0"
        :max="1000"
        :step="5"
        :show-tooltip="false"
        aria-label="Width of the place, in pixels"
        :format-value-text="() => `${width} pixels`"
      />
      <ElButton
        v-for="(stop, index) in widthStops"
        :key="stop.width"
        text
        class="stop"
        :class="{ here: stop.width === width, first: index === 0 }"
        :style="{ left: at(stop.width) }"
        :aria-pressed="stop.width === width"
        @click="width = stop.width"
      >
        {{ stop.name }}
      </ElButton>
    </div>
    <div class="end">
      <output>{{ width }} px</output>
      <ElCheckbox v-model="showsAll">All sizes side by side</ElCheckbox>
    </div>
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
.el-slider {
  height: 18px;
  cursor: ew-resize;
}
.stop {
  position: absolute;
  top: 22px;
  height: 26px;
  padding: 2px 4px;
  color: var(--quiet);
  font-size: var(--text-s);
  font-weight: 400;
  transform: translateX(-50%);
}
.stop::before {
  content: '';
  position: absolute;
  top: -8px;
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
  .el-slider {
    flex: 1 0 100%;
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
.end {
  display: grid;
  justify-items: end;
  margin-top: -4px;
}
output {
  color: var(--quiet);
  font-size: var(--text-s);
}
</style>

<script setup lang="ts">
import { computed } from 'vue'
import { type Count, type Interval, isTooEarly, rateWords, wilson } from '#core/results'

/** A rate as a dot on its interval, and in words. */
const {
  count,
  interval: given,
  most,
  isBehind,
} = defineProps<{
  count: Count | null
  /** Drawn in place of its own: of a trial, which is looked at again and again. Null where it is too early. */
  interval?: Interval | null
  /** The highest end of all that stand beside it. */
  most: number
  /** Whether it is lower than the best beyond what chance does. */
  isBehind?: boolean
}>()
const interval = computed(() =>
  count === null || isTooEarly(count) ? null : given === undefined ? wilson(count) : given,
)
const at = (share: number) => `${(Math.min(1, share / (most || 1)) * 100).toFixed(1)}%`
</script>

<template>
  <div class="rate">
    <div v-if="interval && count" class="scale" aria-hidden="true">
      <span
        class="bar"
        :class="{ isBehind }"
        :style="{ insetInlineStart: at(interval.low), width: at(interval.high - interval.low) }"
      />
      <span class="dot" :class="{ isBehind }" :style="{ insetInlineStart: at(count.count / count.of) }" />
    </div>
    <span class="small" :class="{ quiet: !interval }"
      >{{ count === null ? '—' : rateWords(count, interval ?? undefined)
      }}<template v-if="isBehind"> · less than the best</template></span
    >
  </div>
</template>

<style scoped>
.rate {
  display: grid;
  gap: 2px;
}
.scale {
  position: relative;
  height: 10px;
  border-bottom: 1px solid var(--hairline);
}
.bar,
.dot {
  position: absolute;
  background: var(--moss);
}
.bar {
  top: 4px;
  height: 3px;
}
.dot {
  top: 1px;
  width: 9px;
  height: 9px;
  margin-inline-start: -4px;
  border-radius: 50%;
}
.isBehind {
  background: var(--edge);
}
</style>

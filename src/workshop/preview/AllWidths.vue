<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, useTemplateRef } from 'vue'
import { type Scene, scenePage } from './scenes'
import ScaledPreview from './ScaledPreview.vue'
import { widthStops } from './widths'

/** The form at every width at once: the narrow ones beside each other, the wide ones below. */
const { scene } = defineProps<{ scene: Scene }>()

const rows = [widthStops.slice(0, 3), widthStops.slice(3)]
const GAP = 16
const place = useTemplateRef('place')
const { width: room } = useElementSize(place)
const page = computed(() => scenePage(scene))
const scaleOf = (row: readonly { width: number }[]) =>
  Math.min(1, (room.value - GAP * (row.length - 1)) / row.reduce((sum, { width }) => sum + width, 0))
</script>

<template>
  <div ref="place" class="all">
    <template v-if="room > 0">
      <div v-for="(row, at) in rows" :key="at" class="line" :style="{ gap: `${GAP}px` }">
        <figure v-for="{ width, name } in row" :key="width">
          <figcaption class="quiet small">{{ name }}, {{ width }} px</figcaption>
          <ScaledPreview :page="page" :width="width" :scale="scaleOf(row)" />
        </figure>
      </div>
    </template>
  </div>
</template>

<style scoped>
.all {
  display: grid;
  gap: var(--gap-4);
}
.line {
  display: flex;
  align-items: flex-start;
}
figure {
  margin: 0;
}
</style>

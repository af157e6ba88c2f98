<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, useTemplateRef } from 'vue'
import type { Page } from '#core/render'
import { useFrameDocument } from './frame-document'

/** A page shown small and out of reach: the real rendering, scaled down to the place it has. */
const { page, width = 680 } = defineProps<{ page: Page; width?: number }>()

const frame = useTemplateRef('frame')
const place = useTemplateRef('place')
const { width: room } = useElementSize(place)
const scale = computed(() => (room.value || width) / width)
const { first, onLoad } = useFrameDocument(frame, () => page)
</script>

<template>
  <div ref="place" class="small-picture" aria-hidden="true">
    <iframe
      ref="frame"
      sandbox="allow-same-origin"
      tabindex="-1"
      title="Small preview"
      :srcdoc="first"
      :style="{ width: `${width}px`, height: `${Math.ceil(100 / scale)}%`, transform: `scale(${scale})` }"
      @load="onLoad"
    />
  </div>
</template>

<style scoped>
.small-picture {
  position: relative;
  width: 100%;
  height: 100%;
  overflow: hidden;
  background: #fff;
}
iframe {
  border: 0;
  transform-origin: 0 0;
  pointer-events: none;
}
</style>

<script setup lang="ts">
import { useTemplateRef, watch } from 'vue'
import type { Page } from '#core/render'
import { useFrameDocument } from './frame-document'

/** A whole page at one width and scale, to look at and not to touch. */
const { page, width, scale, most } = defineProps<{
  page: Page
  width: number
  scale: number
  /** Greatest height shown, in pixels. */ most?: number
}>()
/** Told how high the page is at its width, and how far it sticks out to the side, in CSS pixels. */
const emit = defineEmits<{ height: [px: number]; sticksOut: [px: number] }>()
const frame = useTemplateRef('frame')
const { first, height, sticksOut, onLoad } = useFrameDocument(frame, () => page)
watch(height, (px) => emit('height', px))
watch(sticksOut, (px) => emit('sticksOut', px))
</script>

<template>
  <div
    class="scaled"
    aria-hidden="true"
    :style="{ width: `${width * scale}px`, height: `${Math.min(height * scale, most ?? Infinity)}px` }"
  >
    <iframe
      ref="frame"
      sandbox="allow-same-origin"
      tabindex="-1"
      title="Preview of the form"
      :srcdoc="first"
      :style="{ width: `${width}px`, height: `${height}px`, transform: `scale(${scale})` }"
      @load="onLoad"
    />
  </div>
</template>

<style scoped>
.scaled {
  overflow: hidden;
  outline: 1px solid var(--hairline);
  background: #fff;
}
iframe {
  display: block;
  border: 0;
  transform-origin: 0 0;
  pointer-events: none;
}
</style>

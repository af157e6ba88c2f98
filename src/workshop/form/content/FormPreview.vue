<script setup lang="ts">
import { computed, ref, useTemplateRef, watch } from 'vue'
import type { FieldKey } from '#core/form'
import type { Draft } from '../draft'
import { useFrameDocument } from '../../preview/frame-document'
import { type Scene, sceneDocument } from '../../preview/scenes'
import { useWritingIn } from './writing-in'

/** The form as visitors get it, at one width, worked in directly: press a text to rewrite it. */
const { scene, draft, width, room } = defineProps<{
  scene: Scene
  draft: Draft
  /** Width of the place on the page, in CSS pixels. */
  width: number
  /** Width there is to show it in. */
  room: number
}>()
const emit = defineEmits<{ button: []; field: [key: FieldKey]; rich: [place: HTMLElement | null]; link: [] }>()

const frame = useTemplateRef('frame')
const isWriting = ref(false)
const { first, height, loaded, onLoad, patch } = useFrameDocument(
  frame,
  () => sceneDocument(scene),
  () => isWriting.value,
)
const { richPlace } = useWritingIn(loaded, {
  draft,
  onWriting(is) {
    isWriting.value = is
    if (!is) patch()
  },
  onButton: () => emit('button'),
  onField: (key) => emit('field', key),
  onLink: () => emit('link'),
})
watch(richPlace, (place) => emit('rich', place))
const scale = computed(() => Math.min(1, room / width))
</script>

<template>
  <div class="form-picture" :style="{ width: `${width * scale}px`, height: `${height * scale}px` }">
    <iframe
      ref="frame"
      sandbox="allow-same-origin"
      title="The form. Press a text to rewrite it."
      :srcdoc="first"
      :style="{ width: `${width}px`, height: `${height}px`, transform: `scale(${scale})` }"
      @load="onLoad"
    />
  </div>
</template>

<style scoped>
.form-picture {
  overflow: hidden;
}
iframe {
  display: block;
  border: 0;
  transform-origin: 0 0;
}
</style>

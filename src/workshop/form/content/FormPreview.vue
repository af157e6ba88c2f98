<script setup lang="ts">
import { computed, onBeforeUnmount, ref, useTemplateRef, watch } from 'vue'
import { useLooksOn } from '../../controls'
import type { Draft } from '../draft'
import { useFrameDocument, type Scene, scenePage } from '../../preview'
import type { TextEditor } from '../../writing'
import { type WritablePart, useWritingIn } from './writing-in'

/** The form as visitors get it, at one width, worked in directly: press a text to rewrite it. */
const { scene, draft, width, room } = defineProps<{
  scene: Scene
  draft: Draft
  /** Width of the spot on the page, in CSS pixels. */
  width: number
  /** Width there is to show it in. */
  room: number
}>()
/** Whether somebody writes in it. */
const writing = defineModel<boolean>('writing')
const emit = defineEmits<{ part: [part: WritablePart]; editor: [editor: TextEditor | null]; link: [] }>()

const looksOn = useLooksOn()
const frame = useTemplateRef('frame')
const isTyping = ref(false)
const { first, height, loaded, onLoad, patch } = useFrameDocument(
  frame,
  () => scenePage(scene),
  () => isTyping.value || editor.value !== null,
)
const { editor, isWriting } = useWritingIn(loaded, {
  isReadOnly: looksOn.value,
  draft,
  content: () => scene.content,
  onTyping(is) {
    isTyping.value = is
    if (!is) patch()
  },
  onPart: (part) => emit('part', part),
  onLink: () => emit('link'),
})
watch(editor, (one) => {
  emit('editor', one)
  if (one === null) patch()
})
watch(isWriting, (is) => (writing.value = is))
onBeforeUnmount(() => (writing.value = false))
const scale = computed(() => Math.min(1, room / width))
</script>

<template>
  <div class="form-picture" :style="{ width: `${width * scale}px`, height: `${height * scale}px` }">
    <iframe
      ref="frame"
      sandbox="allow-same-origin"
      :title="looksOn ? 'The form.' : 'The form. Press a text to rewrite it.'"
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

<script setup lang="ts">
import { onBeforeUnmount, onMounted, useId, useTemplateRef, watch } from 'vue'
import type { RichText } from '#core/text'
import { directionOf, type Language } from '#core/texts'
import { useLooksOn } from '../../controls'
import { openEditor, type TextEditor } from '../../writing'

/** A text of a message, written where it stands. */
const { label, kind, text, language } = defineProps<{
  label: string
  kind: 'line' | 'rich'
  text: RichText
  language: Language
}>()
const emit = defineEmits<{ write: [text: RichText]; inHand: [editor: TextEditor] }>()

const looksOn = useLooksOn()
const id = useId()
const place = useTemplateRef('place')
let editor: TextEditor | null = null
onMounted(() => {
  editor = openEditor(place.value!, kind, {
    text,
    isReadOnly: looksOn.value,
    onWrite: (written) => emit('write', written as RichText),
    onDone: () => {},
    onLink: () => {},
  })
})
onBeforeUnmount(() => editor?.close())
watch(
  () => text,
  (now) => editor?.show(now),
)
</script>

<template>
  <div class="text">
    <span :id="id" class="label">{{ label }}</span>
    <div
      ref="place"
      class="place"
      :class="kind"
      role="textbox"
      :aria-multiline="kind === 'rich'"
      :aria-readonly="looksOn"
      :aria-labelledby="id"
      :lang="language"
      :dir="directionOf(language)"
      @focusin="editor && emit('inHand', editor)"
    />
  </div>
</template>

<style scoped>
.text {
  display: grid;
  gap: var(--gap-1);
}
.label {
  font-weight: 600;
  font-size: var(--text-s);
}
.place {
  padding: var(--gap-2) var(--gap-3);
  border: 1px solid var(--edge);
  border-radius: var(--corner);
  background: var(--sheet);
  overflow-wrap: anywhere;
  white-space: pre-wrap;
}
.place.rich {
  min-height: 72px;
}
.place:focus {
  outline: 2px solid var(--moss);
  outline-offset: -1px;
}
.place :deep(p) {
  margin: 0 0 var(--gap-2);
}
.place :deep(.placeholder) {
  padding: 0 6px;
  border-radius: 10px;
  background: var(--moss-wash);
  color: var(--moss);
  font-size: var(--text-s);
  white-space: nowrap;
}
</style>

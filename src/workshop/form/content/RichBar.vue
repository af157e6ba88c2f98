<script setup lang="ts">
import { Bold, Italic, Link, List, ListOrdered, Unlink } from '@lucide/vue'
import { nextTick, ref, useTemplateRef } from 'vue'
import { FOLLOWABLE_LINK } from '#core/text'
import { keepSelection, type KeptSelection, restoreSelection } from './rich-writing'

/** Formats the rich text in hand. Pressing it leaves the text in hand; Ctrl+B, Ctrl+I work in the text as well. */
const { place } = defineProps<{ place: HTMLElement | null }>()

const isLinking = ref(false)
const address = ref('')
const problem = ref(false)
const input = useTemplateRef('input')
let kept: { page: Document; selection: KeptSelection } | null = null

function run(command: string, value?: string): void {
  place?.ownerDocument.execCommand(command, false, value)
}

async function startLink(): Promise<void> {
  const selection = place === null ? null : keepSelection(place)
  if (place === null || selection === null) return
  const page = place.ownerDocument
  kept = { page, selection }
  const node = page.getSelection()?.anchorNode
  address.value =
    (node instanceof page.defaultView!.Element ? node : node?.parentElement)?.closest('a')?.getAttribute('href') ??
    'https://'
  isLinking.value = true
  problem.value = false
  await nextTick()
  input.value?.focus()
  input.value?.select()
}

function link(): void {
  const wanted = address.value.trim()
  if (!FOLLOWABLE_LINK.test(wanted) || kept === null) {
    problem.value = true
    return
  }
  const { page, selection } = kept
  isLinking.value = false
  kept = null
  // Leaving the text has rendered it anew, so the selection is found again by its letters.
  if (restoreSelection(page, selection) === null) return
  if (selection.start === selection.end) page.execCommand('insertText', false, wanted.replace(/^https?:\/\//, ''))
  if (selection.start === selection.end)
    restoreSelection(page, { ...selection, end: selection.start + wanted.replace(/^https?:\/\//, '').length })
  page.execCommand('createLink', false, wanted)
}

defineExpose({ startLink })
</script>

<template>
  <div class="bar" role="group" aria-label="Format the text in hand">
    <form v-if="isLinking" class="row" @submit.prevent="link">
      <label class="row small"
        >Link to
        <input
          ref="input"
          v-model="address"
          class="address"
          type="text"
          spellcheck="false"
          :aria-invalid="problem"
          @keydown.esc="isLinking = false"
        />
      </label>
      <button class="tool" type="submit">Set</button>
      <button class="tool" type="button" @click="isLinking = false">Cancel</button>
      <span v-if="problem" class="problem small" role="alert">Begin with https://, mailto: or tel:.</span>
    </form>
    <template v-else>
      <button
        type="button"
        class="tool"
        :disabled="!place"
        title="Bold"
        aria-label="Bold"
        @mousedown.prevent
        @click="run('bold')"
      >
        <Bold :size="16" />
      </button>
      <button
        type="button"
        class="tool"
        :disabled="!place"
        title="Italic"
        aria-label="Italic"
        @mousedown.prevent
        @click="run('italic')"
      >
        <Italic :size="16" />
      </button>
      <button
        type="button"
        class="tool"
        :disabled="!place"
        title="Link"
        aria-label="Link"
        @mousedown.prevent
        @click="startLink"
      >
        <Link :size="16" />
      </button>
      <button
        type="button"
        class="tool"
        :disabled="!place"
        title="Take the link off"
        aria-label="Take the link off"
        @mousedown.prevent
        @click="run('unlink')"
      >
        <Unlink :size="16" />
      </button>
      <button
        type="button"
        class="tool"
        :disabled="!place"
        title="List"
        aria-label="List"
        @mousedown.prevent
        @click="run('insertUnorderedList')"
      >
        <List :size="16" />
      </button>
      <button
        type="button"
        class="tool"
        :disabled="!place"
        title="Numbered list"
        aria-label="Numbered list"
        @mousedown.prevent
        @click="run('insertOrderedList')"
      >
        <ListOrdered :size="16" />
      </button>
    </template>
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  align-items: center;
  gap: var(--gap-1);
  min-height: 34px;
}
.tool {
  display: inline-flex;
  align-items: center;
  min-width: 32px;
  min-height: 32px;
  justify-content: center;
  border: 1px solid transparent;
  border-radius: var(--corner);
  background: none;
  color: var(--ink);
  cursor: pointer;
}
.tool:hover:enabled {
  border-color: var(--edge);
}
.tool:disabled {
  color: var(--quiet);
  opacity: 0.55;
  cursor: default;
}
.address {
  width: 260px;
  min-height: 32px;
  padding: 2px 8px;
  border: 1px solid var(--edge);
  border-radius: var(--corner);
  background: var(--sheet);
  color: var(--ink);
}
</style>

<script setup lang="ts">
import { Bold, Italic, Link, List, ListOrdered, Unlink } from '@lucide/vue'
import { nextTick, ref, useTemplateRef } from 'vue'
import { FOLLOWABLE_LINK } from '#core/text'

/** Formats the rich text in hand. Pressing it leaves the text in hand; Ctrl+B, Ctrl+I work in the text as well. */
const { place } = defineProps<{ place: HTMLElement | null }>()

const isLinking = ref(false)
const address = ref('')
const problem = ref(false)
const input = useTemplateRef('input')
let kept: { page: Document; range: Range } | null = null

function run(command: string, value?: string): void {
  place?.ownerDocument.execCommand(command, false, value)
}

async function startLink(): Promise<void> {
  const page = place?.ownerDocument
  const selection = page?.getSelection()
  if (!page || !selection || selection.rangeCount === 0) return
  kept = { page, range: selection.getRangeAt(0).cloneRange() }
  const node = selection.anchorNode
  address.value = (node instanceof page.defaultView!.Element ? node : node?.parentElement)?.closest('a')?.getAttribute('href') ?? 'https://'
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
  const { page, range } = kept
  const start = range.startContainer
  const host = (start instanceof page.defaultView!.Element ? start : start.parentElement)?.closest<HTMLElement>('[contenteditable]')
  isLinking.value = false
  host?.focus()
  const selection = page.getSelection()
  selection?.removeAllRanges()
  selection?.addRange(range)
  if (range.collapsed) page.execCommand('insertHTML', false, `<a href="${encodeURI(wanted)}">${wanted.replace(/^https?:\/\//, '').replace(/[<>&]/g, '')}</a>`)
  else page.execCommand('createLink', false, wanted)
  kept = null
}
</script>

<template>
  <div class="bar" role="toolbar" aria-label="Format the text in hand">
    <form v-if="isLinking" class="row" @submit.prevent="link">
      <label class="row small"
        >Link to
        <input ref="input" v-model="address" class="address" type="text" spellcheck="false" :aria-invalid="problem" @keydown.esc="isLinking = false" />
      </label>
      <button class="tool" type="submit">Set</button>
      <button class="tool" type="button" @click="isLinking = false">Cancel</button>
      <span v-if="problem" class="problem small" role="alert">Begin with https://, mailto: or tel:.</span>
    </form>
    <template v-else>
      <button type="button" class="tool" :disabled="!place" title="Bold" aria-label="Bold" @mousedown.prevent @click="run('bold')"><Bold :size="16" /></button>
      <button type="button" class="tool" :disabled="!place" title="Italic" aria-label="Italic" @mousedown.prevent @click="run('italic')"><Italic :size="16" /></button>
      <button type="button" class="tool" :disabled="!place" title="Link" aria-label="Link" @mousedown.prevent @click="startLink"><Link :size="16" /></button>
      <button type="button" class="tool" :disabled="!place" title="Take the link off" aria-label="Take the link off" @mousedown.prevent @click="run('unlink')"><Unlink :size="16" /></button>
      <button type="button" class="tool" :disabled="!place" title="List" aria-label="List" @mousedown.prevent @click="run('insertUnorderedList')"><List :size="16" /></button>
      <button type="button" class="tool" :disabled="!place" title="Numbered list" aria-label="Numbered list" @mousedown.prevent @click="run('insertOrderedList')">
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

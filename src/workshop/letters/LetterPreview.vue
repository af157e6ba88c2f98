<script setup lang="ts">
import { computed, ref, useTemplateRef, watch } from 'vue'
import type { PictureId } from '#core/ids'
import { type LetterBody, type LetterFacts, renderLetter } from '#core/letter'
import type { List } from '#core/list'
import type { MailSettings } from '#core/mail'
import { useLooksOn } from '../controls'
import { usePictures } from '../data'
import type { UndoRedo } from '../document'
import { useFrameDocument } from '../preview'
import MailSheet from '../preview/MailSheet.vue'
import type { TextEditor } from '../writing'
import { inScheme, pageOfMarkup, withoutPictures } from './letter-preview'
import { useWritingInLetter } from './writing-in-letter'

/** A letter as its reader gets it, worked in directly: press a text to write, a block to choose it. */
const {
  body,
  list,
  settings,
  chosen = null,
  firstName = null,
  undo = null,
} = defineProps<{
  body: LetterBody
  list: Pick<List, 'name' | 'why'>
  settings: MailSettings
  /** The block in hand. */
  chosen?: string | null
  /** As somebody gets it; null while it is written. */
  firstName?: string | null
  /** What undo is of; missing for a letter that is only looked at. */
  undo?: UndoRedo | null
}>()
const emit = defineEmits<{
  change: [name: string, part: string, recipe: (body: LetterBody) => void]
  block: [id: string]
  move: [id: string, by: -1 | 1]
  editor: [editor: TextEditor | null]
  link: []
}>()

const shows = ref<'light' | 'dark' | 'bare' | 'plain'>('light')
const pictures = usePictures()
const isWritable = computed(() => undo !== null && shows.value === 'light')
const EXAMPLE = 'https://forms.example'
const facts = (marksBlocks: boolean): LetterFacts => ({
  firstName: firstName ?? 'Wren',
  ...{ leaveLink: `${EXAMPLE}/leave/…`, webCopy: `${EXAMPLE}/letter/…` },
  pictureAddress: (id) => pictures.addressOf({ id: id as PictureId }),
  pageOf: (spot) => `${EXAMPLE}/page/${spot}`,
  marksBlocks,
})
const rendered = computed(() => renderLetter(body, { list, settings, facts: facts(false) }))
/** With blocks marked while it is worked on; a letter in plain text is worked on in the same frame. */
const page = computed(() => {
  const html = renderLetter({ ...body, isPlain: false }, { list, settings, facts: facts(isWritable.value) }).html!
  const seen = inScheme(html, shows.value === 'dark')
  return pageOfMarkup(shows.value === 'bare' ? withoutPictures(seen) : seen)
})

const looksOn = useLooksOn()
const frame = useTemplateRef('frame')
const { first, height, loaded, onLoad, patch } = useFrameDocument(
  frame,
  () => page.value,
  () => (writing?.editor.value ?? null) !== null,
)
const writing =
  undo === null || looksOn.value
    ? null
    : useWritingInLetter(loaded, {
        body: () => body,
        change: (...change) => emit('change', ...change),
        undo,
        onBlock: (id) => emit('block', id),
        onMove: (id, by) => emit('move', id, by),
        onLink: () => emit('link'),
      })
if (writing !== null)
  watch(writing.editor, (one) => {
    emit('editor', one)
    if (one === null) patch()
  })

/** The block in hand is told apart from outside: the rendering knows nothing of it. */
watch(
  [loaded, () => chosen, isWritable],
  () => {
    const document = loaded.value
    if (document === null) return
    const style = document.querySelector('style.chosen') ?? document.createElement('style')
    style.className = 'chosen'
    style.textContent =
      chosen === null ? '' : `[data-block="${chosen}"] { outline: 2px solid #4a6b1f; outline-offset: -2px; }`
    document.documentElement.append(style)
  },
  { flush: 'post' },
)
const isPlainShown = computed(() => shows.value === 'plain' || (body.isPlain && undo === null))
</script>

<template>
  <MailSheet
    v-model:shown="shows"
    :from="settings.senderName || list.name"
    :address="settings.senderAddress"
    :subject="rendered.subject"
    :ways="[
      { value: 'light', label: 'Light' },
      { value: 'dark', label: 'Dark' },
      { value: 'bare', label: 'Pictures off' },
      { value: 'plain', label: 'Plain text' },
    ]"
  >
    <template v-if="body.isPlain && !isPlainShown" #before>
      <p class="quiet small">It goes as plain text alone: what its readers see stands under “Plain text”.</p>
    </template>
    <pre v-if="isPlainShown" tabindex="0">{{ rendered.text }}</pre>
    <iframe
      v-show="!isPlainShown"
      ref="frame"
      sandbox="allow-same-origin"
      :title="undo === null ? 'The letter, as its reader gets it' : 'The letter. Press a text to write in it.'"
      :srcdoc="first"
      :style="{ height: `${Math.max(320, height)}px` }"
      @load="onLoad"
    />
  </MailSheet>
</template>

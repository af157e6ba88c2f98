<script setup lang="ts">
import { ElCheckbox } from 'element-plus'
import { computed } from 'vue'
import { type FormContent, openedWords, type WordKey, wordNames } from '#core/form'
import { richText } from '#core/text'
import { startTextsOf } from '#core/texts'
import type { Draft } from '../../draft'
import LanguagePanel from './LanguagePanel.vue'
import PictureChoice from '../picture/PictureChoice.vue'
import VideoChoice from './VideoChoice.vue'

/** Which places have words, picture or video; the words themselves are written in the preview. */
const { content, draft } = defineProps<{ content: FormContent; draft: Draft }>()

const places = ['heading', 'introduction', 'points', 'note', 'small', 'quote', 'quoteBy', 'after'] as const
const isThere = (key: WordKey) => content.words[key].length > 0
const shown = computed(() => places.filter((key) => key !== 'quoteBy' || isThere('quote')))

function toggle(key: (typeof places)[number]): void {
  const isOn = isThere(key)
  const name = wordNames[key].toLowerCase()
  const opened = key === 'small' ? richText(startTextsOf(content.language).small) : openedWords[key]
  draft.change(isOn ? `Take off: ${name}` : `Add: ${name}`, `place ${key}`, (changed) => {
    Object.assign(changed.words, { [key]: isOn ? (typeof opened === 'string' ? '' : []) : opened })
  })
}
</script>

<template>
  <fieldset class="group">
    <legend>Places with words</legend>
    <div class="places">
      <ElCheckbox v-for="key in shown" :key="key" :model-value="isThere(key)" @change="toggle(key)">{{
        wordNames[key]
      }}</ElCheckbox>
    </div>
    <p class="quiet small">Write in the preview itself. What you take off comes back with undo.</p>
  </fieldset>
  <PictureChoice :content="content" :draft="draft" />
  <VideoChoice :content="content" :draft="draft" />
  <LanguagePanel :content="content" :draft="draft" />
</template>

<style scoped>
.places {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0 var(--gap-2);
}
</style>

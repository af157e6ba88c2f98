<script setup lang="ts">
import { computed } from 'vue'
import { type FormContent, type WordKey } from '#core/form'
import { bullets, type RichText, richText } from '#core/text'
import type { Draft } from '../../stores/draft'
import LanguagePanel from './LanguagePanel.vue'
import PictureChoice from './PictureChoice.vue'
import VideoChoice from './VideoChoice.vue'

/** Which places have words, picture or video; the words themselves are written in the picture. */
const { content, draft } = defineProps<{ content: FormContent; draft: Draft }>()

const places: { key: WordKey; name: string; start: string | RichText }[] = [
  { key: 'heading', name: 'Heading', start: 'Say what they get' },
  { key: 'introduction', name: 'Introduction', start: richText('Say it in a sentence or two.') },
  { key: 'points', name: 'Points', start: bullets(['What they get', 'How often', 'What it costs: nothing']) },
  { key: 'note', name: 'Note before the fields', start: richText('A note before the fields.') },
  { key: 'small', name: 'Small line below', start: richText('No spam. Leave with one press.') },
  { key: 'quote', name: 'A reader’s words', start: richText('What a reader said about it.') },
  { key: 'quoteBy', name: 'Who said it', start: 'A reader' },
  { key: 'after', name: 'Text after the form', start: richText('More to tell, below the form.') },
]
const isThere = (key: WordKey) => content.words[key].length > 0
const shown = computed(() => places.filter(({ key }) => key !== 'quoteBy' || isThere('quote')))

function toggle({ key, name, start }: (typeof places)[number]): void {
  const isOn = isThere(key)
  draft.change(isOn ? `Take off: ${name.toLowerCase()}` : `Add: ${name.toLowerCase()}`, `place ${key}`, (changed) => {
    Object.assign(changed.words, { [key]: isOn ? (typeof start === 'string' ? '' : []) : start })
  })
}
</script>

<template>
  <fieldset class="group">
    <legend>Places with words</legend>
    <div class="places">
      <label v-for="place in shown" :key="place.key" class="place">
        <input type="checkbox" :checked="isThere(place.key)" @change="toggle(place)" />
        {{ place.name }}
      </label>
    </div>
    <p class="quiet small">Write in the picture itself. What you take off comes back with undo.</p>
  </fieldset>
  <PictureChoice :content="content" :draft="draft" />
  <VideoChoice :content="content" :draft="draft" />
  <LanguagePanel :content="content" :draft="draft" />
</template>

<style scoped>
.places {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: var(--gap-2);
}
.place {
  display: flex;
  gap: var(--gap-2);
  align-items: center;
  min-height: 28px;
}
input {
  width: 16px;
  height: 16px;
  accent-color: var(--moss);
}
</style>

<script setup lang="ts">
import { computed, ref } from 'vue'
import { type FormContent, inLanguage } from '#core/form'
import { type Language, languageNames, languages, type TextKey, textKeys, textsOf } from '#core/texts'
import type { Draft } from '../draft'
import TypedInput from '../../controls/TypedInput.vue'

/** The form's own texts: which language they are in, and each in the owner's wording if wanted. */
const { content, draft } = defineProps<{ content: FormContent; draft: Draft }>()

const isOpen = ref(false)
const ours = computed(() => textsOf(content.language))
const rewritten = computed(
  () => Object.values(content.texts).filter((text) => text !== undefined && text.trim() !== '').length,
)

function speak(language: Language): void {
  draft.change(`Speak ${languageNames[language]}`, 'language', (changed) =>
    Object.assign(changed, inLanguage(changed, language)),
  )
}

function rewrite(key: TextKey, text: string): void {
  draft.change('Rewrite a text of the form', `text ${key}`, (changed) => {
    if (text.trim() === '' || text === ours.value[key]) delete changed.texts[key]
    else changed.texts[key] = text
  })
}
</script>

<template>
  <fieldset class="group">
    <legend>Language</legend>
    <label class="field">
      <span class="name">The form speaks</span>
      <select
        class="plain-select"
        :value="content.language"
        @change="speak(($event.target as HTMLSelectElement).value as Language)"
      >
        <option v-for="language in languages" :key="language" :value="language">{{ languageNames[language] }}</option>
      </select>
    </label>
    <details @toggle="isOpen = ($event.target as HTMLDetailsElement).open">
      <summary>
        The form’s own texts<template v-if="rewritten">, {{ rewritten }} rewritten</template>
      </summary>
      <label v-for="key in isOpen ? textKeys : []" :key="key" class="field">
        <span class="quiet small">{{ ours[key] }}</span>
        <TypedInput
          class="plain-input"
          :lang="content.language"
          :value="content.texts[key] ?? null"
          :placeholder="ours[key]"
          :aria-label="`In place of: ${ours[key]}`"
          @change="rewrite(key, $event)"
        />
      </label>
    </details>
  </fieldset>
</template>

<style scoped>
summary {
  min-height: 28px;
  cursor: pointer;
}
details[open] {
  display: grid;
  gap: var(--gap-2);
}
</style>

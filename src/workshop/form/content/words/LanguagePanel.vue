<script setup lang="ts">
import { ElCollapse, ElCollapseItem } from 'element-plus'
import { computed, ref } from 'vue'
import { type FormContent, inLanguage } from '#core/form'
import { type Language, languageNames, languages, type TextKey, textKeys, textsOf } from '#core/texts'
import type { Draft } from '../../draft'
import Labelled from '../../../controls/Labelled.vue'
import Select from '../../../controls/Select.vue'
import TypedInput from '../../../controls/TypedInput.vue'

/** The form's own texts: which language they are in, and each in the owner's wording if wanted. */
const { content, draft } = defineProps<{ content: FormContent; draft: Draft }>()

const open = ref<string[]>([])
const choices = languages.map((language) => ({ value: language, label: languageNames[language] }))
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
    <Labelled label="The form speaks">
      <Select :model-value="content.language" :options="choices" @update:model-value="speak($event as Language)" />
    </Labelled>
    <ElCollapse v-model="open">
      <ElCollapseItem name="texts" :title="`The form’s own texts${rewritten ? `, ${rewritten} rewritten` : ''}`">
        <div v-if="open.length > 0" class="texts">
          <div v-for="key in textKeys" :key="key">
            <span class="quiet small">{{ ours[key] }}</span>
            <TypedInput
              :lang="content.language"
              :value="content.texts[key] ?? null"
              :placeholder="ours[key]"
              :aria-label="`In place of: ${ours[key]}`"
              @change="rewrite(key, $event)"
            />
          </div>
        </div>
      </ElCollapseItem>
    </ElCollapse>
  </fieldset>
</template>

<style scoped>
.texts {
  display: grid;
  gap: var(--gap-2);
}
</style>

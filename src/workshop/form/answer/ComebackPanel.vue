<script setup lang="ts">
import { ElInput } from 'element-plus'
import { computed } from 'vue'
import type { Finding } from '#core/checkup'
import type { Form, FormContent, Known } from '#core/form'
import { answerTextsOf } from '#core/texts'
import Choice from '../../controls/Choice.vue'
import Labelled from '../../controls/Labelled.vue'
import { usePictures } from '../../data'
import { greetingAlone } from '../../preview'
import SmallPreview from '../../preview/SmallPreview.vue'
import type { Draft } from '../draft'
import Findings from '../../controls/Findings.vue'

/** What somebody sees in the form's place who signed up in the same browser before. */
const { form, content, draft } = defineProps<{
  form: Form
  content: FormContent
  draft: Draft
  findings: Finding[]
}>()

const pictures = usePictures()
const known = computed(() => content.known)
const start = (): Known => ({
  ...answerTextsOf(content.language).alreadyOnList,
  link: { words: '', address: '' },
})
const sees = computed({
  get: () => (content.known === undefined ? 'form' : 'words'),
  set: (what) =>
    draft.change('Change what is seen on coming back', 'known', (changed) => {
      if (what === 'form') delete changed.known
      else changed.known = start()
    }),
})
const greeting = computed(() => greetingAlone({ content, form: form.id, pictureAddress: pictures.addressOf }))

function write(part: 'heading' | 'message' | 'words' | 'address', text: string): void {
  draft.change('Rewrite what is seen on coming back', `known ${part}`, ({ known }) => {
    if (known === undefined) return
    if (part === 'heading' || part === 'message') known[part] = text
    else known.link[part] = text
  })
}
</script>

<template>
  <fieldset class="group">
    <legend>Somebody who comes back</legend>
    <p class="quiet small">
      Somebody who signed up in the same browser before sees (no cookie is needed; it works with script code):
    </p>
    <Choice
      v-model="sees"
      name="known"
      :options="[
        { value: 'form', label: 'The form again' },
        { value: 'words', label: 'Words of yours' },
      ]"
    />
    <template v-if="known">
      <Labelled label="Heading">
        <ElInput :model-value="known?.heading" @update:model-value="write('heading', $event)" />
      </Labelled>
      <Labelled label="Message">
        <ElInput
          type="textarea"
          :rows="2"
          :model-value="known?.message"
          @update:model-value="write('message', $event)"
        />
      </Labelled>
      <Labelled label="Link to somewhere else" hint="Such as your newest letter. Empty for none.">
        <ElInput
          type="url"
          placeholder="https://"
          :model-value="known?.link.address"
          @update:model-value="write('address', $event)"
        />
      </Labelled>
      <Labelled v-if="known?.link.address" label="Words of the link">
        <ElInput :model-value="known?.link.words" @update:model-value="write('words', $event)" />
      </Labelled>
      <div v-if="greeting" class="greeting"><SmallPreview :page="greeting" :width="420" /></div>
    </template>
    <Findings :findings="findings" />
  </fieldset>
</template>

<style scoped>
.greeting {
  height: 170px;
  overflow: hidden;
  border: 1px solid var(--hairline);
  border-radius: var(--corner);
}
</style>

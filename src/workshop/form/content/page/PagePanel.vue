<script setup lang="ts">
import { ElInput } from 'element-plus'
import { computed } from 'vue'
import type { FormContent } from '#core/form'
import type { PictureUse } from '#core/picture'
import type { Draft } from '../../draft'
import Labelled from '../../../controls/Labelled.vue'
import PictureFile from '../picture/PictureFile.vue'

/** What the landing page says of itself: in the browser's tab, in search results, where its link is shared. */
const { content, draft } = defineProps<{ content: FormContent; draft: Draft }>()

function change(step: string, part: string, changes: Partial<FormContent['page']>): void {
  draft.change(step, `page ${part}`, (changed) => Object.assign(changed.page, changes))
}
const share = computed<PictureUse | null>({
  get: () => content.page.sharePicture,
  set: (use) => change('Choose the shared picture', 'share', { sharePicture: use }),
})
const icon = computed<PictureUse | null>({
  get: () => content.page.icon,
  set: (use) => change('Choose the page’s icon', 'icon', { icon: use }),
})
</script>

<template>
  <fieldset class="group">
    <legend>The page itself</legend>
    <Labelled label="Title, in the tab and in search results">
      <ElInput
        :model-value="content.page.title"
        :placeholder="content.words.heading"
        @input="change('Name the page', 'title', { title: $event })"
      />
    </Labelled>
    <Labelled label="Description, below it in search results">
      <ElInput
        type="textarea"
        :rows="3"
        :model-value="content.page.description"
        @input="change('Describe the page', 'description', { description: $event })"
      />
    </Labelled>
    <div class="field">
      <span class="name">Shown where its link is shared</span>
      <PictureFile v-model="share" name="Picture" :shown-at="{ width: 600, height: 400 }" />
    </div>
    <div class="field">
      <span class="name">In the browser’s tab</span>
      <PictureFile v-model="icon" name="Icon" :shown-at="{ width: 64, height: 64 }" />
    </div>
  </fieldset>
</template>

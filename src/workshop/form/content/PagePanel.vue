<script setup lang="ts">
import { computed } from 'vue'
import type { FormContent } from '#core/form'
import type { PictureUse } from '#core/picture'
import type { Draft } from '../draft'
import PictureFile from './PictureFile.vue'

/** What the landing page says of itself: in the browser's tab, in search results, where its link is shared. */
const { content, draft } = defineProps<{ content: FormContent; draft: Draft }>()

function change(step: string, place: string, changes: Partial<FormContent['page']>): void {
  draft.change(step, `page ${place}`, (changed) => Object.assign(changed.page, changes))
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
    <label class="field">
      <span class="name">Title, in the tab and in search results</span>
      <input
        class="plain-input"
        :value="content.page.title"
        :placeholder="content.words.heading"
        @input="change('Name the page', 'title', { title: ($event.target as HTMLInputElement).value })"
      />
    </label>
    <label class="field">
      <span class="name">Description, below it in search results</span>
      <textarea
        class="plain-input"
        rows="3"
        :value="content.page.description"
        @input="
          change('Describe the page', 'description', { description: ($event.target as HTMLTextAreaElement).value })
        "
      />
    </label>
    <div class="field">
      <span class="name">Shown where its link is shared</span>
      <PictureFile v-model="share" name="Picture" :place="{ width: 600, height: 400 }" />
    </div>
    <div class="field">
      <span class="name">In the browser’s tab</span>
      <PictureFile v-model="icon" name="Icon" :place="{ width: 64, height: 64 }" />
    </div>
  </fieldset>
</template>

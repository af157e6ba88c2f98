<script setup lang="ts">
import { ElInputTag } from 'element-plus'
import type { FormContent } from '#core/form'
import Labelled from '../../../controls/Labelled.vue'
import type { Draft } from '../../draft'

/** What everybody who joins by the form is tagged with. */
const { content, draft } = defineProps<{ content: FormContent; draft: Draft }>()

function change(tags: string[] | undefined): void {
  const kept = (tags ?? []).map((tag) => tag.replace(/\s+/g, ' ').trim()).filter(Boolean)
  draft.change('Change the tags', 'tags', (changed) => {
    if (kept.length === 0) delete changed.tags
    else changed.tags = [...new Set(kept)]
  })
}
</script>

<template>
  <fieldset class="group tags">
    <legend>Tags</legend>
    <Labelled
      label="Everybody who joins by this form gets"
      hint="Enter adds what is typed. Choices above can give tags of their own."
    >
      <ElInputTag
        :model-value="content.tags ?? []"
        aria-label="Everybody who joins by this form gets"
        :max="50"
        @change="change"
      />
    </Labelled>
  </fieldset>
</template>

<style scoped>
.tags {
  margin-top: var(--gap-5);
}
</style>

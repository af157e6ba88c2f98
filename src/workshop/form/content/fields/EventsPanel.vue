<script setup lang="ts">
import { ElCheckbox } from 'element-plus'
import type { FormContent } from '#core/form'
import type { Draft } from '../../draft'

/** What the page's own programs are told of a form. */
const { content, draft } = defineProps<{ content: FormContent; draft: Draft }>()
function change(isTold: boolean): void {
  draft.change('Change what the page is told', 'tells address', (changed) => {
    if (isTold) changed.tellsAddress = true
    else delete changed.tellsAddress
  })
}
</script>

<template>
  <fieldset class="group events">
    <legend>What the page is told</legend>
    <ElCheckbox
      :model-value="content.tellsAddress ?? false"
      label="The address of who joins"
      aria-describedby="events-hint"
      @change="change(Boolean($event))"
    />
    <p id="events-hint" class="quiet small">
      A counting tool on your page can learn that a form was seen, begun and sent. It learns of no address unless you
      allow it here.
    </p>
  </fieldset>
</template>

<style scoped>
.events {
  margin-top: var(--gap-5);
}
</style>

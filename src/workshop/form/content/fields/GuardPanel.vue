<script setup lang="ts">
import { ElCheckbox } from 'element-plus'
import { computed } from 'vue'
import type { FormContent, Guard } from '#core/form'
import type { Draft } from '../../draft'
import Labelled from '../../../controls/Labelled.vue'
import NumberInput from '../../../controls/NumberInput.vue'

/** What holds sign-ups back besides the trap that every form has. */
const { content, draft } = defineProps<{ content: FormContent; draft: Draft }>()
const guard = computed<Guard>(() => content.guard ?? { leastSeconds: 0, noThrowAway: false })

function change(part: keyof Guard, changes: Partial<Guard>): void {
  draft.change('Change the guard', `guard ${part}`, (changed) => {
    const next = { ...(changed.guard ?? { leastSeconds: 0, noThrowAway: false }), ...changes }
    if (next.leastSeconds === 0 && !next.noThrowAway && !next.puzzle) delete changed.guard
    else changed.guard = next
  })
}
</script>

<template>
  <fieldset class="group guard">
    <legend>Guard</legend>
    <p class="quiet small">
      Every form has a trap that only bots fill in. What is held back is told nothing of it, stands among the newest
      sign-ups with its reason, and can be let in.
    </p>
    <Labelled label="Hold back who is faster than so many seconds" hint="Where our script runs. 0: nobody.">
      <NumberInput
        :value="guard.leastSeconds"
        :least="0"
        :most="30"
        @change="change('leastSeconds', { leastSeconds: $event ?? 0 })"
      />
    </Labelled>
    <ElCheckbox
      :model-value="guard.noThrowAway"
      label="Hold back throw-away addresses"
      @change="change('noThrowAway', { noThrowAway: Boolean($event) })"
    />
    <ElCheckbox
      :model-value="guard.puzzle ?? false"
      label="A small puzzle for the browser"
      aria-describedby="puzzle-hint"
      @change="change('puzzle', { puzzle: Boolean($event) || undefined })"
    />
    <p id="puzzle-hint" class="quiet small">
      Costs each visitor a moment of computing, and whoever sends thousands a lot. Nobody has to read or click anything;
      browsers without scripts cannot sign up.
    </p>
  </fieldset>
</template>

<style scoped>
.guard {
  margin-top: var(--gap-5);
}
</style>

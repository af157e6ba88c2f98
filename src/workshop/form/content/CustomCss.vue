<script setup lang="ts">
import { ref } from 'vue'
import type { Look } from '#core/look'
import type { Draft } from '../draft'

/** The owner's own CSS: kept to this form, and to what cannot do harm. What is left out is named. */
const { look, draft } = defineProps<{ look: Look; draft: Draft }>()
const leftOut = ref<string[]>([])

async function write(typed: string): Promise<void> {
  // The reader of CSS is large and wanted by few, so it comes when it is first needed.
  const { readCustomCss } = await import('#core/css')
  const reading = readCustomCss(typed)
  leftOut.value = reading.leftOut
  draft.change('Write CSS', 'custom css', (changed) => (changed.look.custom = { typed, rules: reading.rules }))
}
</script>

<template>
  <details data-part="css">
    <summary>
      Your own CSS<template v-if="look.custom.rules.length"
        >, {{ look.custom.rules.length }} {{ look.custom.rules.length === 1 ? 'rule' : 'rules' }}</template
      >
    </summary>
    <label class="field">
      <span class="quiet small"
        >Holds for this form only, on a landing page for all of it. Parts are named askbox-heading, askbox-field,
        askbox-input, askbox-button; “form” is the form itself.</span
      >
      <textarea
        class="plain-input code"
        rows="7"
        spellcheck="false"
        aria-label="Your own CSS"
        :value="look.custom.typed"
        @input="write(($event.target as HTMLTextAreaElement).value)"
      />
    </label>
    <ul v-if="leftOut.length" class="small problem" role="status">
      <li v-for="line in leftOut" :key="line">{{ line }}</li>
    </ul>
  </details>
</template>

<style scoped>
summary {
  padding: var(--gap-3) 0;
  font-weight: 650;
  cursor: pointer;
}
.code {
  font-family: var(--mono);
  font-size: var(--text-s);
}
ul {
  margin: var(--gap-2) 0 var(--gap-3);
  padding-inline-start: 1.1em;
}
</style>

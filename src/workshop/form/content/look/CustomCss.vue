<script setup lang="ts">
import { ElCollapseItem, ElInput } from 'element-plus'
import { computed, ref } from 'vue'
import type { Look } from '#core/look'
import type { Draft } from '../../draft'

/** The owner's own CSS: kept to this form, and to what cannot do harm. What is left out is named. */
const { look, draft } = defineProps<{ look: Look; draft: Draft }>()
const leftOut = ref<string[]>([])
const count = computed(() => look.custom.rules.length)
const title = computed(
  () => `Your own CSS${count.value === 0 ? '' : `, ${count.value} ${count.value === 1 ? 'rule' : 'rules'}`}`,
)

async function write(typed: string): Promise<void> {
  // The reader of CSS is large and wanted by few, so it comes when it is first needed.
  const { readCustomCss } = await import('#core/css')
  const reading = readCustomCss(typed)
  leftOut.value = reading.leftOut
  draft.change('Write CSS', 'custom css', (changed) => (changed.look.custom = { typed, rules: reading.rules }))
}
</script>

<template>
  <ElCollapseItem name="css" data-part="css" :title="title">
    <p class="quiet small">
      Holds for this form only, on a landing page for all of it. Parts are named askbox-heading, askbox-field,
      askbox-input, askbox-button; “form” is the form itself.
    </p>
    <ElInput
      type="textarea"
      class="code"
      :rows="7"
      spellcheck="false"
      aria-label="Your own CSS"
      :model-value="look.custom.typed"
      @input="write"
    />
    <ul v-if="leftOut.length" class="small problem" role="status">
      <li v-for="line in leftOut" :key="line">{{ line }}</li>
    </ul>
  </ElCollapseItem>
</template>

<style scoped>
ul {
  margin: var(--gap-2) 0 0;
  padding-inline-start: 1.1em;
}
</style>

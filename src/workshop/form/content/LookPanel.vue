<script setup lang="ts">
import { computed, useTemplateRef, watch } from 'vue'
import type { Form, FormContent } from '#core/form'
import type { Draft } from '../draft'
import { useWorkspace } from '../../data/workspace'
import CustomCss from './CustomCss.vue'
import { type LookControl, lookGroups } from './look-controls'
import LookTokens from './LookTokens.vue'
import SitePalette from './SitePalette.vue'
import ThemeChoice from './ThemeChoice.vue'

/** Every token of how the form looks. `part` opens one group, as when the button was pressed in the picture. */
const { form, content, draft } = defineProps<{ form: Form; content: FormContent; draft: Draft }>()
const part = defineModel<string>('part', { required: true })

const workspace = useWorkspace()
const root = useTemplateRef('root')
const palette = computed(() => {
  const { background, text, accent, colours } = workspace.paletteOf(form.id)
  return [...new Set([background, text, accent, ...colours])].slice(0, 9)
})

function set({ step, place, write }: LookControl, value: string | number | null): void {
  draft.change(step, `look ${place}`, (changed) => write(changed.look, value))
}

watch(part, (name) => {
  if (name === '') return
  const group = root.value?.querySelector<HTMLDetailsElement>(`[data-part="${name}"]`)
  if (group) {
    group.open = true
    group.scrollIntoView({ block: 'nearest' })
  }
  part.value = ''
})
</script>

<template>
  <div ref="root" class="look">
    <ThemeChoice :content="content" :form="form" :draft="draft" />
    <details v-for="group in lookGroups" :key="group.key" :open="group.key === 'colours'" :data-part="group.key">
      <summary>{{ group.title }}</summary>
      <LookTokens :group="group" :look="content.look" :palette="palette" @change="set" />
      <SitePalette v-if="group.key === 'colours'" :form="form" :draft="draft" />
    </details>
    <CustomCss :look="content.look" :draft="draft" />
  </div>
</template>

<style scoped>
.look {
  display: grid;
}
details {
  border-bottom: 1px solid var(--hairline);
}
details[open] {
  padding-bottom: var(--gap-4);
}
details > :not(summary) + * {
  margin-top: var(--gap-3);
}
summary {
  padding: var(--gap-3) 0;
  font-weight: 650;
  cursor: pointer;
}
</style>

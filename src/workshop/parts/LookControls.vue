<script setup lang="ts">
import { ElColorPicker } from 'element-plus'
import 'element-plus/theme-chalk/el-color-picker.css'
import 'element-plus/theme-chalk/el-popper.css'
import { ref } from 'vue'
import type { FormContent } from '#core/form'
import type { Look } from '#core/look'
import type { Draft } from '../stores/draft'

type ColourName = keyof Look['colours']

const { content, draft } = defineProps<{ content: FormContent; draft: Draft }>()

const colours: { name: ColourName; label: string }[] = [
  { name: 'background', label: 'Background' },
  { name: 'text', label: 'Text' },
  { name: 'button', label: 'Button' },
  { name: 'buttonText', label: 'Button text' },
]
const problem = ref<ColourName | null>(null)

function set(name: ColourName, label: string, typed: string | null): void {
  const colour = (typed ?? '').trim().toLowerCase().replace(/^#?/, '#')
  const long = /^#[0-9a-f]{3}$/.test(colour) ? colour.replace(/[0-9a-f]/g, '$&$&') : colour
  problem.value = /^#[0-9a-f]{6}$/.test(long) ? null : name
  if (problem.value !== null) return
  draft.change(`Colour the ${label.toLowerCase()}`, `colour ${name}`, (changed) => {
    changed.look.colours[name] = long
  })
}
</script>

<template>
  <fieldset class="group">
    <legend>Colours</legend>
    <div v-for="{ name, label } in colours" :key="name" class="colour">
      <ElColorPicker
        :model-value="content.look.colours[name]"
        :aria-label="`${label} colour`"
        @active-change="set(name, label, $event)"
        @change="set(name, label, $event)"
      />
      <label :for="`colour-${name}`">{{ label }}</label>
      <input
        :id="`colour-${name}`"
        :value="content.look.colours[name]"
        spellcheck="false"
        :aria-invalid="problem === name"
        @change="set(name, label, ($event.target as HTMLInputElement).value)"
      />
      <p v-if="problem === name" class="problem small" role="alert">Write a colour as #2a2236.</p>
    </div>
  </fieldset>
</template>

<style scoped>
.colour {
  display: grid;
  grid-template-columns: 36px 1fr 104px;
  align-items: center;
  gap: var(--gap-1) var(--gap-3);
}
.colour input {
  min-height: 34px;
  width: 100%;
  padding: 4px 8px;
  border: 1px solid var(--edge);
  border-radius: var(--corner);
  background: var(--sheet);
  color: var(--ink);
  font-family: var(--mono);
  font-size: var(--text-s);
}
.colour .problem {
  grid-column: 2 / -1;
}
.colour :deep(.el-color-picker__trigger) {
  width: 36px;
  height: 34px;
  padding: 3px;
  border-color: var(--edge);
}
.colour :deep(.el-color-picker__color) {
  border: 0;
}
.colour :deep(.el-color-picker__icon),
.colour :deep(.el-color-picker__empty) {
  display: none;
}
</style>

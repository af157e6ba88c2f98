<script setup lang="ts">
import { Plus, X } from '@lucide/vue'
import { ElButton, ElInput } from 'element-plus'
import { nextTick, useTemplateRef } from 'vue'
import { type Choice, freeChoiceKey } from '#core/form'

/** The answers there are to choose from. Enter adds the next one. */
const { choices, areTags } = defineProps<{ choices: readonly Choice[]; areTags: boolean }>()
const emit = defineEmits<{ change: [choices: Choice[]] }>()
const place = useTemplateRef('place')

function rename(at: number, label: string): void {
  emit(
    'change',
    choices.map((choice, index) => (index === at ? { ...choice, label } : choice)),
  )
}

function tag(at: number, given: string): void {
  emit(
    'change',
    choices.map((choice, index) => {
      if (index !== at) return choice
      const { tag: _, ...rest } = choice
      return given.trim() === '' ? rest : { ...rest, tag: given }
    }),
  )
}

/** Keys of choices that were begun and have no words yet: left without any, they go again. */
const begun = new Set<string>()
function leave(at: number): void {
  const { key, label } = choices[at] ?? { key: '', label: '' }
  if (begun.delete(key) && label.trim() === '' && choices.length > 1) remove(at)
}

/** Enter goes on to the next choice; behind one that has no words yet there is none. */
function next(at: number): void {
  if (choices[at]?.label.trim() !== '') void add(at)
}

async function add(after = choices.length - 1): Promise<void> {
  const key = freeChoiceKey(choices)
  begun.add(key)
  emit('change', [...choices.slice(0, after + 1), { key, label: '' }, ...choices.slice(after + 1)])
  await nextTick()
  place.value?.querySelectorAll<HTMLInputElement>('.label input')[after + 1]?.focus()
}

function remove(at: number): void {
  emit(
    'change',
    choices.filter((_, index) => index !== at),
  )
}
</script>

<template>
  <fieldset ref="place" class="choices">
    <legend class="small">{{ areTags ? 'Choices, each a tag of those who choose it' : 'Choices' }}</legend>
    <div v-for="(choice, at) in choices" :key="choice.key" class="choice">
      <ElInput
        :model-value="choice.label"
        class="label"
        :aria-label="`Choice ${at + 1}`"
        @input="rename(at, $event)"
        @keydown.enter.prevent="next(at)"
        @blur="leave(at)"
      />
      <ElInput
        v-if="!areTags"
        class="tag"
        placeholder="Tag"
        :model-value="choice.tag ?? ''"
        :maxlength="200"
        :aria-label="`Tag of those who choose ${choice.label || `choice ${at + 1}`}`"
        @input="tag(at, $event)"
      />
      <ElButton
        text
        class="tool"
        :disabled="choices.length === 1 || undefined"
        :aria-label="`Take off ${choice.label || `choice ${at + 1}`}`"
        @click="remove(at)"
      >
        <X :size="15" />
      </ElButton>
    </div>
    <div>
      <ElButton size="small" text @click="add()"><Plus :size="14" /><span>One choice more</span></ElButton>
    </div>
  </fieldset>
</template>

<style scoped>
.choices {
  display: grid;
  gap: var(--gap-1);
  margin: 0;
  padding: 0;
  border: 0;
}
/* Beside its choice, where there is room for both. */
.tag {
  width: 110px;
}
legend {
  margin-bottom: var(--gap-1);
  padding: 0;
  font-weight: 600;
}
.choice {
  display: grid;
  grid-template-columns: minmax(0, 2fr) auto 30px;
  gap: var(--gap-1);
}
.tool {
  padding: 0;
  color: var(--quiet);
}
</style>

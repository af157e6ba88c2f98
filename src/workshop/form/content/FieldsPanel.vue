<script setup lang="ts">
import { ChevronDown, ChevronUp, GripVertical, Plus, Trash2 } from '@lucide/vue'
import { ElButton } from 'element-plus'
import Sortable from 'sortablejs'
import { computed, nextTick, onBeforeUnmount, onMounted, ref, useTemplateRef } from 'vue'
import { formEffort } from '#core/checkup'
import {
  type Field,
  fieldAdded,
  type FieldKey,
  fieldKinds,
  type FieldKind,
  fieldMoved,
  fieldRemoved,
  fieldTitle,
  type Form,
  type FormContent,
  kindName,
  newField,
} from '#core/form'
import { textsOf } from '#core/texts'
import type { Draft } from '../draft'
import FieldEditor from './FieldEditor.vue'

/** What the form asks, in its order: drag, or move with the arrow buttons or Alt and the arrow keys. */
const { form, content, draft } = defineProps<{ form: Form; content: FormContent; draft: Draft }>()
const current = defineModel<FieldKey | null>('current', { required: true })

const list = useTemplateRef('list')
const kind = ref<FieldKind | ''>('')
const addable = fieldKinds.filter((one) => one.kind !== 'email')
const seconds = computed(() => formEffort(content.fields).total)
const steps = computed(() => Math.max(...content.fields.map(({ step }) => step)))

async function add(): Promise<void> {
  const wanted = kind.value
  kind.value = ''
  if (wanted === '') return
  const field = newField(
    wanted,
    textsOf(content.language, content.texts),
    content.fields.map(({ key }) => key),
  )
  draft.change(
    `Ask: ${kindName(wanted).toLowerCase()}`,
    `add ${field.key}`,
    (changed) => (changed.fields = fieldAdded(changed.fields, field)),
  )
  await nextTick()
  current.value = field.key
}

function remove(field: Field): void {
  draft.change(
    `Stop asking: ${fieldTitle(field)}`,
    `remove ${field.key}`,
    (changed) => (changed.fields = fieldRemoved(changed.fields, field.key)),
  )
  if (current.value === field.key) current.value = null
}

function move(from: number, to: number): void {
  const field = content.fields[from]
  if (field === undefined || to < 0 || to >= content.fields.length) return
  draft.change(
    `Move: ${fieldTitle(field)}`,
    `move ${field.key}`,
    (changed) => (changed.fields = fieldMoved(changed.fields, from, to)),
  )
}

function onKey(event: KeyboardEvent, at: number): void {
  if (!event.altKey || (event.key !== 'ArrowUp' && event.key !== 'ArrowDown')) return
  event.preventDefault()
  const key = content.fields[at]!.key
  move(at, at + (event.key === 'ArrowUp' ? -1 : 1))
  void nextTick(() => list.value?.querySelector<HTMLElement>(`[data-key="${key}"] .title`)?.focus())
}

let sortable: Sortable | null = null
onMounted(() => {
  if (list.value === null) return
  sortable = Sortable.create(list.value, {
    handle: '.grip',
    animation: 120,
    onEnd({ oldIndex, newIndex, item, from }) {
      if (oldIndex === undefined || newIndex === undefined || oldIndex === newIndex) return
      // The list is drawn from the draft: what was dragged goes back, and the draft moves it.
      from.insertBefore(item, from.children[oldIndex < newIndex ? oldIndex : oldIndex + 1] ?? null)
      move(oldIndex, newIndex)
    },
  })
})
onBeforeUnmount(() => sortable?.destroy())
</script>

<template>
  <div class="fields">
    <ol ref="list" aria-label="Fields, in the order asked">
      <li
        v-for="(field, at) in content.fields"
        :key="field.key"
        :data-key="field.key"
        :class="{ open: current === field.key }"
      >
        <div class="head">
          <GripVertical class="grip" :size="16" aria-hidden="true" />
          <button
            type="button"
            class="title"
            :aria-expanded="current === field.key"
            @click="current = current === field.key ? null : field.key"
            @keydown="onKey($event, at)"
          >
            <span class="label">{{ fieldTitle(field) }}</span>
            <span class="quiet small">
              {{ kindName(field.kind) }}{{ field.required ? ', required' : '' }}{{ field.showWhen ? ', sometimes' : ''
              }}<template v-if="steps > 1">, step {{ field.step }}</template>
            </span>
          </button>
          <button
            type="button"
            class="tool"
            :disabled="at === 0"
            :aria-label="`Move ${fieldTitle(field)} up`"
            @click="move(at, at - 1)"
          >
            <ChevronUp :size="16" />
          </button>
          <button
            type="button"
            class="tool"
            :disabled="at === content.fields.length - 1"
            :aria-label="`Move ${fieldTitle(field)} down`"
            @click="move(at, at + 1)"
          >
            <ChevronDown :size="16" />
          </button>
          <button
            v-if="field.kind !== 'email'"
            type="button"
            class="tool"
            :aria-label="`Stop asking ${fieldTitle(field)}`"
            @click="remove(field)"
          >
            <Trash2 :size="15" />
          </button>
          <span v-else class="tool" />
        </div>
        <FieldEditor v-if="current === field.key" :form="form" :field="field" :fields="content.fields" :draft="draft" />
      </li>
    </ol>
    <form class="row add" @submit.prevent="add">
      <select v-model="kind" class="plain-select" aria-label="Ask one thing more">
        <option value="">Ask one thing more …</option>
        <option v-for="one in addable" :key="one.kind" :value="one.kind">{{ one.name }}</option>
      </select>
      <ElButton native-type="submit" :disabled="kind === ''"><Plus :size="16" /><span>Add it</span></ElButton>
    </form>
    <p class="quiet small">
      About {{ Math.round(seconds.desk) }} s to fill in at a desk, {{ Math.round(seconds.phone) }} s on a phone. Every
      question costs sign-ups: ask what you will use.
    </p>
  </div>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-3);
}
ol {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  margin: 0;
  padding: 0;
  border-top: 1px solid var(--hairline);
  list-style: none;
}
li {
  border-bottom: 1px solid var(--hairline);
}
li.open {
  background: var(--sheet);
}
.head {
  display: grid;
  grid-template-columns: 22px minmax(0, 1fr) 28px 28px 28px;
  align-items: center;
}
.grip {
  color: var(--quiet);
  cursor: grab;
}
.title {
  display: grid;
  padding: var(--gap-2) var(--gap-1);
  border: 0;
  background: none;
  color: var(--ink);
  text-align: start;
  cursor: pointer;
}
.label {
  overflow: hidden;
  font-weight: 600;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.tool {
  display: inline-flex;
  width: 28px;
  min-height: 28px;
  align-items: center;
  justify-content: center;
  padding: 0;
  border: 0;
  border-radius: var(--corner);
  background: none;
  color: var(--quiet);
  cursor: pointer;
}
.tool:hover:enabled {
  color: var(--ink);
  background: var(--sunken);
}
.tool:disabled {
  opacity: 0.35;
  cursor: default;
}
.add select {
  flex: 1;
}
</style>

<script setup lang="ts">
import { ChevronDown, ChevronUp, GripVertical, Plus, Trash2 } from '@lucide/vue'
import { ElButton } from 'element-plus'
import Sortable from 'sortablejs'
import { computed, nextTick, onBeforeUnmount, onMounted, useTemplateRef } from 'vue'
import { questionsAsked } from '#core/checkup'
import {
  canAdd,
  type Field,
  fieldAdded,
  type FieldKey,
  fieldKinds,
  type FieldKind,
  fieldMoved,
  fieldRemoved,
  fieldTitle,
  fieldWithColumn,
  type Form,
  type FormContent,
  kindName,
  newField,
  takesMessages,
  withMessage,
  withoutMessage,
} from '#core/form'
import { ownersAddress } from '#core/mail'
import { textsOf } from '#core/texts'
import { useWorkspace } from '../../../data'
import type { Draft } from '../../draft'
import FieldEditor from './FieldEditor.vue'
import EventsPanel from './EventsPanel.vue'
import GuardPanel from './GuardPanel.vue'
import MessagesPanel from './MessagesPanel.vue'
import TagsPanel from './TagsPanel.vue'

/** What the form asks, in its order: drag, or move with the arrow buttons or Alt and the arrow keys. */
const { form, content, draft } = defineProps<{ form: Form; content: FormContent; draft: Draft }>()
const current = defineModel<FieldKey | null>('current', { required: true })

const workspace = useWorkspace()
const list = useTemplateRef('list')
const addable = computed(() =>
  fieldKinds.filter(
    ({ kind }) => canAdd(content.fields, kind) || (kind === 'message' && !takesMessages(content) && !isDirect.value),
  ),
)
/** What posts straight to a service has no receiver that could take a message. */
const isDirect = computed(() => content.direct !== undefined)
const owner = computed(() => ownersAddress(workspace.mail(form.list)?.draft ?? null))
const questions = computed(() => questionsAsked(content.fields))
const steps = computed(() => Math.max(...content.fields.map(({ step }) => step)))

/** The list gets the column that keeps the answer by itself; undo takes both back. */
async function add(wanted: FieldKind): Promise<void> {
  // With it come the box that joins and where it goes.
  if (wanted === 'message') {
    draft.change('Take messages', 'add message', (changed) => Object.assign(changed, withMessage(changed, owner.value)))
    await nextTick()
    current.value = content.fields.find(({ kind }) => kind === 'message')?.key ?? null
    return
  }
  const { field } = fieldWithColumn(
    newField(
      wanted,
      textsOf(content.language, content.texts),
      content.fields.map(({ key }) => key),
    ),
    content.fields,
    workspace.list(form.list)?.columns ?? [],
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
  draft.change(`Stop asking: ${fieldTitle(field)}`, `remove ${field.key}`, (changed) => {
    if (field.kind !== 'message') changed.fields = fieldRemoved(changed.fields, field.key)
    else {
      Object.assign(changed, withoutMessage(changed))
      delete changed.messages
    }
  })
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
          <ElButton
            text
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
          </ElButton>
          <ElButton
            text
            class="tool"
            :disabled="at === 0 || undefined"
            :aria-label="`Move ${fieldTitle(field)} up`"
            @click="move(at, at - 1)"
          >
            <ChevronUp :size="16" />
          </ElButton>
          <ElButton
            text
            class="tool"
            :disabled="at === content.fields.length - 1 || undefined"
            :aria-label="`Move ${fieldTitle(field)} down`"
            @click="move(at, at + 1)"
          >
            <ChevronDown :size="16" />
          </ElButton>
          <ElButton
            v-if="field.kind !== 'email' && field.kind !== 'join-box'"
            text
            class="tool"
            :aria-label="`Stop asking ${fieldTitle(field)}`"
            @click="remove(field)"
          >
            <Trash2 :size="15" />
          </ElButton>
          <span v-else class="tool" />
        </div>
        <FieldEditor v-if="current === field.key" :form="form" :field="field" :fields="content.fields" :draft="draft" />
      </li>
    </ol>
    <div role="group" aria-labelledby="add-title" class="add">
      <h2 id="add-title">Ask one thing more</h2>
      <ElButton v-for="one in addable" :key="one.kind" size="small" @click="add(one.kind)"
        ><Plus :size="14" aria-hidden="true" /><span>{{ one.name }}</span></ElButton
      >
    </div>
    <p class="quiet small">
      {{ questions.asked === 1 ? 'One question' : `${questions.asked} questions`
      }}<template v-if="questions.optional > 0">, of which {{ questions.optional }} may be left out</template>. Every
      one costs sign-ups: ask what you will use.
    </p>
    <MessagesPanel v-if="takesMessages(content)" :content="content" :draft="draft" :owner="owner" />
    <TagsPanel :content="content" :draft="draft" />
    <GuardPanel :content="content" :draft="draft" />
    <EventsPanel :content="content" :draft="draft" />
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
  height: auto;
  padding: var(--gap-2) var(--gap-1);
  justify-content: start;
  font-weight: 400;
  text-align: start;
}
.title :deep(> span) {
  display: grid;
  min-width: 0;
}
.label {
  overflow: hidden;
  font-weight: 600;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.tool {
  width: 28px;
  height: 28px;
  padding: 0;
  color: var(--quiet);
}
.add {
  display: flex;
  flex-wrap: wrap;
  gap: var(--gap-2);
}
.add h2 {
  flex: 1 0 100%;
  font-size: var(--text-m);
}
</style>

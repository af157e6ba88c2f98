<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed, onBeforeUnmount, ref } from 'vue'
import { type Finding, questionsAsked, type Weight } from '#core/checkup'
import { fieldTitle, type FieldKey, type FormContent } from '#core/form'
import { useMending } from '../../../controls'

/** What a look at the form finds, as it is worked on: each with its reason, its place, and its mend where one can be computed. */
const { content, findings } = defineProps<{ content: FormContent; findings: Finding[] }>()
const emit = defineEmits<{
  field: [key: FieldKey]
  /** What a mend would make of it, while it is looked at; null when it is not any more. */ preview: [
    content: FormContent | null,
  ]
}>()
/** Whose mend is looked at. It takes a hand that moves: a button that only came to lie under the pointer shows nothing. */
let lookedAt: Finding | null = null
function look(finding: Finding | null): void {
  if (finding === lookedAt) return
  lookedAt = finding
  emit('preview', finding?.mend?.apply(content) ?? null)
}
onBeforeUnmount(() => look(null))

const questions = computed(() => questionsAsked(content.fields))
const groups = computed(() => {
  const names: Record<Weight, string> = {
    stops: 'Before it can be published',
    fault: 'Faults that visitors meet',
    hint: 'Worth a thought',
  }
  return (Object.keys(names) as Weight[])
    .map((weight) => ({ weight, name: names[weight], findings: findings.filter((one) => one.weight === weight) }))
    .filter((group) => group.findings.length > 0)
})
const optional = computed(() => content.fields.filter(({ kind, required }) => kind !== 'hidden' && !required))

/** Whose reason is read: the rule behind a finding stands there for who wants it. */
const explained = ref<string | null>(null)
function explain({ code, about }: Finding): void {
  explained.value = explained.value === code + about ? null : code + about
}

const putRight = useMending()
function mend(finding: Finding): void {
  look(null)
  putRight(finding)
}

async function find({ selector, about, code }: Finding): Promise<void> {
  if (about !== undefined && content.fields.some(({ key }) => key === about)) emit('field', about)
  if (code === 'choice-empty') return focusEmptyChoice()
  const page = document.querySelector<HTMLIFrameElement>('iframe[title^="The form."]')?.contentDocument
  const node = selector === undefined ? null : page?.querySelector<HTMLElement>(selector)
  node?.scrollIntoView({ block: 'nearest' })
  node?.animate?.(
    [
      { outline: '4px solid #a3244f', outlineOffset: '4px' },
      { outline: '4px solid transparent', outlineOffset: '4px' },
    ],
    { duration: 1600, easing: 'ease-in' },
  )
}
/** The field’s editor opens beside it, and its choices come a moment later. */
async function focusEmptyChoice(): Promise<void> {
  for (let frame = 0; frame < MOST_FRAMES; frame += 1) {
    await new Promise((resolve) => requestAnimationFrame(resolve))
    const inputs = [...document.querySelectorAll<HTMLInputElement>('.choices .label input')]
    const empty = inputs.find(({ value }) => value.trim() === '')
    if (empty !== undefined) return empty.focus()
  }
}
const MOST_FRAMES = 60
</script>

<template>
  <p v-if="findings.length === 0" class="fine">
    Nothing found. Contrast, labels, sizes, words and links are as they should be.
  </p>
  <section v-for="group in groups" :key="group.weight" class="group">
    <h2>{{ group.name }}</h2>
    <ul>
      <li v-for="finding in group.findings" :key="finding.code + finding.about" :class="finding.weight">
        <p>{{ finding.message }}</p>
        <p v-if="explained === finding.code + finding.about" class="quiet small">
          {{ finding.reason }} <i v-if="finding.source">{{ finding.source }}.</i>
        </p>
        <div v-if="finding.mend || finding.selector || finding.reason" class="row">
          <ElButton
            v-if="finding.mend"
            size="small"
            type="primary"
            @pointermove="look(finding)"
            @pointerleave="look(null)"
            @focus="look(finding)"
            @blur="look(null)"
            @click="mend(finding)"
            >{{ finding.mend.name }}</ElButton
          >
          <ElButton v-if="finding.selector" size="small" text @click="find(finding)">Show where</ElButton>
          <ElButton
            v-if="finding.reason || finding.source"
            size="small"
            text
            :aria-expanded="explained === finding.code + finding.about"
            @click="explain(finding)"
            >Why?</ElButton
          >
        </div>
      </li>
    </ul>
  </section>
  <section class="group">
    <h2>What it asks</h2>
    <p>
      {{ questions.asked === 1 ? 'One question' : `${questions.asked} questions`
      }}<template v-if="optional.length > 0"
        >, of which {{ optional.map((field) => `“${fieldTitle(field)}”`).join(', ') }} may be left out</template
      >. Each one more costs sign-ups: ask only what you will use.
    </p>
  </section>
</template>

<style scoped>
ul {
  display: grid;
  gap: var(--gap-3);
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  gap: var(--gap-1);
  padding-inline-start: var(--gap-3);
  border-inline-start: 3px solid var(--raspberry);
}
li.hint {
  border-inline-start-color: var(--edge);
}
.fine {
  padding: var(--gap-3) var(--gap-4);
  border-inline-start: 3px solid var(--moss);
  background: var(--moss-wash);
}
/* A button without a ground begins where the words above it begin. */
.row :deep(.is-text:first-child) {
  margin-inline-start: -8px;
}
</style>

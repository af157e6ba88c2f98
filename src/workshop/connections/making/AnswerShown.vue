<script setup lang="ts">
import { ElInput } from 'element-plus'
import { computed, ref, watch } from 'vue'
import { type JsonTemplate, type RequestName } from '#core/connection'
import { bringsMany, readParts, type ReadStep } from '#core/example'
import { parsedJson, pointerStep } from '#core/json'
import Labelled from '../../controls/Labelled.vue'
import Select from '../../controls/Select.vue'
import { partName } from './making-words'
import PressableText from './PressableText.vue'
import type { ServiceMaking } from './service-making'

/** What was sent and what came, side by side; a value of the answer that is pressed is named. */
const { making, step } = defineProps<{ making: ServiceMaking; step: RequestName }>()
const tried = computed(() => making.tries.value[step] ?? null)
const sent = computed(() => {
  const request = tried.value?.asked.exchange?.request
  if (request === undefined) return tried.value === null ? 'Sent when the key is tried.' : 'Nothing was sent.'
  const headers = Object.entries(request.headers).map(([name, value]) => `${name}: ${value}`)
  return [`${request.method} ${request.address}`, ...headers, '', request.body ?? ''].join('\n').trim()
})

const MOST_LINES = 400
type Part = { text: string; id?: string; mark?: string }
const reading = computed(() => making.readings.value[step] ?? {})
const names = computed(() => (step in readParts ? [...readParts[step as ReadStep]] : []))

/** Pointers of what is read already, by what it is. */
function markOf(pointer: string): string | undefined {
  const { items, read = {}, next } = reading.value
  if (next !== undefined && 'cursor' in next && next.cursor === pointer) return 'where the next page begins'
  if (next !== undefined && 'address' in next && next.address === pointer) return 'the next page'
  for (const [part, at] of Object.entries(read)) {
    const isIt =
      bringsMany(step) && items !== undefined
        ? pointer.startsWith(`${items}/`) && pointer.slice(items.length).replace(/^\/\d+/, '') === at
        : pointer === at
    if (isIt) return partName(step as ReadStep, part)
  }
  return making.learnt.value.said?.includes(pointer) === true && tried.value?.asked.means !== 'done'
    ? 'why, in words'
    : undefined
}

const parts = computed((): Part[] => {
  const shown = making.shownAnswers.value[step]
  const answer =
    tried.value?.asked.exchange?.answer ?? (shown === undefined ? null : { status: '', headers: {}, body: shown })
  if (answer === null) return [{ text: tried.value === null ? 'Nothing yet.' : 'Nothing came.' }]
  const json = parsedJson(answer.body) as JsonTemplate | undefined
  const found: Part[] = answer.status === '' ? [] : [{ text: `${answer.status}\n` }]
  for (const [name, value] of Object.entries(answer.headers))
    if (/link|cursor|next/.test(name)) found.push({ text: `${name}: ${value}\n` })
  found.push({ text: '\n' })
  if (json === undefined) return [...found, { text: answer.body === '' ? '(no body)' : answer.body.slice(0, 4_000) }]
  let lines = 0
  const write = (value: JsonTemplate, pointer: string, indent: string): void => {
    if (lines > MOST_LINES) return
    if (value === null || typeof value !== 'object') {
      const mark = markOf(pointer)
      found.push({ text: JSON.stringify(value), id: pointer, ...(mark !== undefined && { mark }) })
      return
    }
    const entries = Object.entries(value) as [string, JsonTemplate][]
    const [open, close] = Array.isArray(value) ? ['[', ']'] : ['{', '}']
    const own = markOf(pointer)
    found.push(own === undefined ? { text: open } : { text: open, id: pointer, mark: own })
    entries.forEach(([key, part], at) => {
      lines += 1
      found.push({ text: `\n${indent}  ${Array.isArray(value) ? '' : `${JSON.stringify(key)}: `}` })
      write(part, `${pointer}${pointerStep(key)}`, `${indent}  `)
      if (at < entries.length - 1) found.push({ text: ',' })
    })
    found.push({ text: `${entries.length > 0 ? `\n${indent}` : ''}${close}` })
  }
  write(json, '', '')
  return found
})

const chosen = ref<string | null>(null)
watch(tried, () => (chosen.value = null))
const options = computed(() => [
  ...names.value.map((part) => ({ value: part as string, label: partName(step as ReadStep, part) })),
  ...(bringsMany(step) ? [{ value: 'next', label: 'where the next page begins' }] : []),
  { value: 'said', label: 'why something was refused, in words' },
])
const part = ref('')
watch(chosen, () => (part.value = ''))
function name(value: string): void {
  part.value = value
  if (chosen.value !== null) making.press(step, value, chosen.value)
}
</script>

<template>
  <div class="both">
    <div>
      <h4>What was sent</h4>
      <PressableText label="What was sent" :parts="[{ text: sent }]" :chosen="null" />
    </div>
    <div>
      <h4>{{ tried === null ? 'What will come' : 'What came' }}</h4>
      <ElInput
        v-if="tried === null"
        :model-value="making.shownAnswers.value[step] ?? ''"
        type="textarea"
        :rows="4"
        class="code"
        aria-label="An example answer from the help page"
        placeholder="Does the help page show an answer? Paste it here, and press what it is."
        spellcheck="false"
        @update:model-value="making.showAnswer(step, $event)"
      />
      <PressableText
        label="What came: press a value to say what it is"
        :parts="parts"
        :chosen="chosen"
        @press="chosen = $event"
      />
      <Labelled v-if="chosen !== null" label="What is that?">
        <Select
          :model-value="part"
          :options="options"
          placeholder="Say what it is"
          @update:model-value="name(String($event))"
        />
      </Labelled>
    </div>
  </div>
</template>

<style scoped>
.both {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(360px, 100%), 1fr));
  gap: var(--gap-3);
}
h4 {
  margin: 0 0 var(--gap-1);
  font-size: var(--text-s);
}
/* Beside the text that it becomes. */
.code :deep(textarea) {
  margin-bottom: var(--gap-2);
  font-family: var(--mono);
  font-size: var(--text-s);
}
</style>

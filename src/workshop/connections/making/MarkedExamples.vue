<script setup lang="ts">
import { computed, nextTick, ref, useTemplateRef } from 'vue'
import { type Role, roles } from '#core/example'
import Labelled from '../../controls/Labelled.vue'
import Select from '../../controls/Select.vue'
import { roleWords, stepName } from './making-words'
import PressableText from './PressableText.vue'
import type { ServiceMaking } from './service-making'

/** The examples as they were pasted, with what each value stands for; a press on one says otherwise. */
const { making } = defineProps<{ making: ServiceMaking }>()
const { requests, text } = making
/** What stands in an example as it stands: it needs no mark. */
const PLAIN: ReadonlySet<Role> = new Set(['fixed', 'left-out'])

const parts = computed(() => {
  const found: { text: string; id?: string; mark?: string }[] = []
  let from = 0
  const spans = requests.value.flatMap(({ number, pieces, roles: known, step }) =>
    step === null
      ? []
      : pieces.flatMap(({ id, span }) =>
          span === null ? [] : [{ ...span, id: `${number} ${id}`, role: known[id] ?? 'fixed' }],
        ),
  )
  for (const { start, end, id, role } of spans.toSorted((one, other) => one.start - other.start)) {
    if (start < from) continue
    if (start > from) found.push({ text: text.value.slice(from, start) })
    found.push({ text: text.value.slice(start, end), id, ...(!PLAIN.has(role) && { mark: roleWords[role] }) })
    from = end
  }
  if (from < text.value.length) found.push({ text: text.value.slice(from) })
  return found
})

const chosen = ref<string | null>(null)
const inHand = computed(() => {
  const [number = '', id = ''] = (chosen.value ?? '').split(/ ([^]*)/)
  const request = requests.value.find((one) => one.number === Number(number))
  const piece = request?.pieces.find((one) => one.id === id)
  return request === undefined || piece === undefined ? null : { request, piece, role: request.roles[id] ?? 'fixed' }
})
const options = roles.map((value) => ({ value, label: roleWords[value] }))
const question = useTemplateRef('question')
async function press(id: string): Promise<void> {
  chosen.value = id
  await nextTick()
  question.value?.querySelector<HTMLElement>('input, .el-select__wrapper')?.focus()
}
const shortened = (value: string) => (value.length > 40 ? `${value.slice(0, 40)} …` : value)
</script>

<template>
  <div class="marked-examples">
    <p class="quiet small">Is something taken for what it is not? Press it, and say what it is.</p>
    <PressableText
      label="What was read, with what each value stands for"
      :parts="parts"
      :chosen="chosen"
      @press="press"
    />
    <div v-if="inHand" ref="question" class="question">
      <Labelled
        :label="`What is “${shortened(inHand.piece.value || inHand.piece.name)}”, in “${stepName(inHand.request.step!)}”?`"
      >
        <Select
          :model-value="inHand.role"
          :options="options"
          @update:model-value="making.correct(inHand!.request.number, inHand!.piece.id, $event as Role)"
        />
      </Labelled>
    </div>
  </div>
</template>

<style scoped>
.marked-examples {
  display: grid;
  gap: var(--gap-2);
}
p {
  margin: 0;
}
.question {
  max-width: 420px;
}
</style>

<script setup lang="ts">
import { Check, CircleHelp, Minus, X } from '@lucide/vue'
import { ElButton } from 'element-plus'
import { computed, ref } from 'vue'
import type { RequestName } from '#core/connection'
import { offeredFor, readParts, type ReadStep } from '#core/example'
import Select from '../../controls/Select.vue'
import { reasonFor } from '../words'
import AnswerShown from './AnswerShown.vue'
import { furtherSteps, makingSteps, partName } from './making-words'
import type { ServiceMaking } from './service-making'

/** What a service is asked, step by step: by which request, what came of trying it, and what a missing one costs. */
const { making } = defineProps<{ making: ServiceMaking }>()
const { requests, operations, tries, readings } = making

const NONE = ''
const MOST_OFFERED = 60
function optionsFor(step: RequestName) {
  const own = requests.value.map(({ number, request }) => ({
    value: String(number),
    label: `${request.method} ${shortAddress(request.address)}`,
  }))
  const offered =
    operations.value === null
      ? []
      : offeredFor(step, operations.value)
          .slice(0, MOST_OFFERED)
          .map((one) => ({
            value: `operation ${operations.value!.indexOf(one)}`,
            label: one.step === step ? `${one.name}: ${one.about || one.why}` : `${one.name}: ${one.about}`,
          }))
  return [{ value: NONE, label: 'none' }, ...(operations.value === null ? own : offered)]
}
const shortAddress = (address: string) => address.replace(/^[a-z]+:\/\/[^/]+/i, '').slice(0, 70)

const rows = computed(() => {
  const further = furtherSteps
    .filter(({ step }) => making.stepOf(step) !== null)
    .map((one) => ({ ...one, missing: '', isNeeded: false }))
  return [...makingSteps, ...further].map(({ step, name, missing, isNeeded = false }) => {
    const request = making.stepOf(step)
    const operation = request === null ? null : making.operationOf(request)
    return {
      ...{ step, name, isNeeded, request },
      state: stateOf(step, request !== null, isNeeded),
      chosen:
        operations.value === null
          ? request === null
            ? NONE
            : String(request.number)
          : operation === null
            ? NONE
            : `operation ${operations.value.indexOf(operation)}`,
      why: operation?.step === step ? operation.why : '',
      words: request === null ? missing : wordsOf(step),
      unread: request?.request.unread ?? [],
    }
  })
})

type State = 'missing' | 'needed' | 'untried' | 'works' | 'fails' | 'unclear'
function stateOf(step: RequestName, isThere: boolean, isNeeded: boolean): State {
  if (!isThere) return isNeeded ? 'needed' : 'missing'
  const off = step === 'off' ? making.tried.value?.steps.find((one) => one.step === 'off') : undefined
  if (off !== undefined) return off.isDone ? 'works' : 'fails'
  const tried = tries.value[step]
  if (tried === undefined) return 'untried'
  if (step === 'find' && tried.asked.means === 'absent') return 'works'
  if (tried.asked.means !== 'done' && tried.asked.means !== 'to-confirm' && tried.asked.means !== 'already')
    return 'fails'
  return missingParts(step).length > 0 ? 'unclear' : 'works'
}

/** What has to be read of an answer, and is not found in it. */
function missingParts(step: RequestName): string[] {
  const needed: Partial<Record<RequestName, string[]>> = {
    lists: ['id'],
    fields: ['key'],
    find: ['email'],
    members: ['email'],
    tags: ['id', 'name'],
  }
  return (needed[step] ?? []).filter((part) => readings.value[step]?.read?.[part] === undefined && step in readParts)
}

function wordsOf(step: RequestName): string {
  if (step === 'off' && making.tried.value !== null) {
    const off = making.tried.value.steps.find((one) => one.step === 'off')
    return off === undefined ? '' : off.isDone ? 'The made-up person was taken off again.' : reasonFor(off)
  }
  const tried = tries.value[step]
  if (tried === undefined) return ''
  if (step === 'find' && tried.asked.means === 'absent') return 'It answers, and says when nobody is there.'
  if (tried.asked.means !== 'done' && tried.asked.means !== 'already') return reasonFor(tried.asked)
  const missing = missingParts(step)
  if (missing.length > 0)
    return `It answered. Press ${missing.map((part) => partName(step as ReadStep, part)).join(' and ')} in what came.`
  if (step === 'account') return tried.asked.account ? `“${tried.asked.account}”` : 'The key works.'
  if (step === 'lists')
    return `${tried.asked.lists.length}: ${tried.asked.lists
      .map(({ name }) => name)
      .join(', ')
      .slice(0, 120)}`
  if (step === 'fields')
    return tried.asked.fields
      .map(({ name }) => name)
      .join(', ')
      .slice(0, 120)
  return 'It answered, and the answer is understood.'
}
const icons = { missing: Minus, needed: X, untried: Minus, works: Check, fails: X, unclear: CircleHelp }
const opened = ref<RequestName | null>(null)
</script>

<template>
  <ol aria-label="What the service is asked">
    <li v-for="row in rows" :key="row.step" :class="row.state">
      <component :is="icons[row.state]" :size="16" class="sign" aria-hidden="true" />
      <b>{{ row.name }}</b>
      <Select
        :model-value="row.chosen"
        :options="optionsFor(row.step)"
        :label="`Request for “${row.name}”`"
        @update:model-value="making.choose(row.step, String($event))"
      />
      <span
        class="small words"
        :class="{
          silent: row.words === '' && row.why === '' && row.unread.length === 0,
          problem: row.state === 'needed' || row.state === 'fails',
          quiet: row.state === 'missing' || row.state === 'untried',
        }"
      >
        {{ row.words || (row.why ? `Likely: ${row.why}.` : '') }}
        <span v-if="row.unread.length > 0" class="problem">Not read: {{ row.unread.join('; ') }}.</span>
      </span>
      <ElButton
        v-if="row.request && (tries[row.step] || row.step in readParts)"
        text
        size="small"
        :aria-expanded="opened === row.step"
        :aria-label="`${opened === row.step ? 'Less' : tries[row.step] ? 'What came' : 'Its answer'}: ${row.name}`"
        @click="opened = opened === row.step ? null : row.step"
        >{{ opened === row.step ? 'Less' : tries[row.step] ? 'What came' : 'Its answer' }}</ElButton
      >
      <AnswerShown v-if="opened === row.step" class="answer" :making="making" :step="row.step" />
    </li>
  </ol>
</template>

<style scoped>
ol {
  display: grid;
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  grid-template-columns: 16px 150px minmax(0, 1fr) minmax(0, 1.2fr) 92px;
  gap: var(--gap-3);
  align-items: center;
  padding: var(--gap-2) 0;
  border-bottom: 1px solid var(--hairline);
}
.sign {
  color: var(--quiet);
}
.works .sign {
  color: var(--moss);
}
.needed .sign,
.fails .sign,
.unclear .sign {
  color: var(--raspberry);
}
.answer {
  grid-column: 1 / -1;
}
@media (max-width: 760px) {
  li {
    grid-template-columns: 16px minmax(0, 1fr);
  }
  li > :nth-child(n + 3) {
    grid-column: 2;
  }
  li > .el-button {
    justify-self: start;
    margin-inline-start: -8px;
  }
  .silent {
    display: none;
  }
  .answer {
    grid-column: 1 / -1 !important;
  }
}
</style>

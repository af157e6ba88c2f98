<script setup lang="ts">
import { computed } from 'vue'
import {
  answersToDependOn,
  autofillTokens,
  type Field,
  fieldChanged,
  fieldTitle,
  type Form,
  suggestedAutofill,
} from '#core/form'
import type { Draft } from '../draft'
import Choice from '../../controls/Choice.vue'
import TypedInput from '../../controls/TypedInput.vue'
import ChoicesEditor from './ChoicesEditor.vue'
import ColumnChoice from './ColumnChoice.vue'

/** Everything about one field that is not written in the picture. */
const { form, field, fields, draft } = defineProps<{
  form: Form
  field: Field
  fields: readonly Field[]
  draft: Draft
}>()

type Changes = Partial<Record<string, unknown>>
function change(step: string, changes: Changes): void {
  draft.change(`${step}: ${fieldTitle(field)}`, `${field.key} ${Object.keys(changes).join()}`, (changed) => {
    changed.fields = fieldChanged(changed.fields, field.key, changes as Partial<Field>)
  })
}
const textOf = (event: Event) => (event.target as HTMLInputElement).value
const isTicked = (event: Event) => (event.target as HTMLInputElement).checked

const isSeen = computed(() => field.kind !== 'hidden')
const hasLabel = computed(() => isSeen.value && field.kind !== 'consent')
const hasExample = computed(() =>
  ['email', 'first-name', 'last-name', 'full-name', 'phone', 'website', 'number', 'line', 'text'].includes(field.kind),
)
const hasAutofill = computed(() => hasExample.value && field.kind !== 'number')
const tokens = computed(() => ['', 'off', ...autofillTokens.filter((token) => !/^cc-|password|one-time/.test(token))])
const others = computed(() => fields.filter((other) => other.key !== field.key && answersToDependOn(other).length > 0))
const controlling = computed(() => fields.find(({ key }) => key === field.showWhen?.field))

function dependOn(key: string): void {
  const other = fields.find((one) => one.key === key)
  const [first] = other === undefined ? [] : answersToDependOn(other)
  change(first === undefined ? 'Ask everybody' : 'Ask only sometimes', {
    showWhen: first === undefined ? null : { field: key, is: [first.key] },
  })
}

function setAnswer(key: string, is: boolean): void {
  if (field.showWhen === null) return
  const answers = is ? [...field.showWhen.is, key] : field.showWhen.is.filter((one) => one !== key)
  if (answers.length > 0) change('Ask only sometimes', { showWhen: { ...field.showWhen, is: answers } })
}

function setNumber(name: 'least' | 'most', text: string): void {
  const value = text.trim() === '' ? null : Number(text)
  if (value === null || Number.isFinite(value)) change('Bound the number', { [name]: value })
}
</script>

<template>
  <div class="editor">
    <label v-if="hasLabel" class="field">
      <span class="name">Label</span>
      <input class="plain-input" :value="field.label" @input="change('Rewrite a label', { label: textOf($event) })" />
    </label>
    <label v-if="hasLabel" class="row"
      ><input
        type="checkbox"
        :checked="field.labelShown"
        @change="change('Show or hide the label', { labelShown: isTicked($event) })"
      />
      Show the label</label
    >
    <p v-if="field.kind === 'consent'" class="quiet small">
      Write its words in the picture. They are kept with the receipt of everybody who ticks it. It never comes ticked.
    </p>
    <label v-if="hasExample" class="field">
      <span class="name">Example inside</span>
      <input
        class="plain-input"
        :value="field.placeholder"
        @input="change('Rewrite an example', { placeholder: textOf($event) })"
      />
    </label>
    <label v-if="isSeen" class="field">
      <span class="name">Hint below the label</span>
      <input class="plain-input" :value="field.hint" @input="change('Rewrite a hint', { hint: textOf($event) })" />
    </label>
    <label v-if="isSeen && field.kind !== 'email'" class="row"
      ><input
        type="checkbox"
        :checked="field.required"
        @change="change('Require it or not', { required: isTicked($event) })"
      />
      Must be answered</label
    >
    <label v-if="field.kind === 'birthday'" class="row"
      ><input
        type="checkbox"
        :checked="field.withYear"
        @change="change('Ask the year or not', { withYear: isTicked($event) })"
      />
      Ask the year too</label
    >
    <div v-if="field.kind === 'number'" class="two">
      <label class="field"
        ><span class="name">At least</span
        ><TypedInput class="plain-input" type="number" :value="field.least" @change="setNumber('least', $event)"
      /></label>
      <label class="field"
        ><span class="name">At most</span
        ><TypedInput class="plain-input" type="number" :value="field.most" @change="setNumber('most', $event)"
      /></label>
    </div>
    <ChoicesEditor
      v-if="field.kind === 'choose-one' || field.kind === 'choose-several' || field.kind === 'topics'"
      :choices="field.choices"
      :are-tags="field.kind === 'topics'"
      @change="change('Change the choices', { choices: $event })"
    />
    <div v-if="field.kind === 'choose-one'" class="field">
      <span class="name">Shown as</span>
      <Choice
        label="Shown as"
        :model-value="field.shownAs"
        :name="`shown-${field.key}`"
        :options="[
          { value: 'menu', label: 'A menu' },
          { value: 'buttons', label: 'Buttons' },
        ]"
        @update:model-value="change('Show the choices', { shownAs: $event })"
      />
    </div>
    <template v-if="field.kind === 'hidden'">
      <label class="field"
        ><span class="name">Name, for your eyes only</span
        ><input class="plain-input" :value="field.label" @input="change('Rename', { label: textOf($event) })"
      /></label>
      <div class="field">
        <span class="name">Its value</span>
        <Choice
          label="Its value"
          :model-value="field.source"
          :name="`source-${field.key}`"
          :options="[
            { value: 'fixed', label: 'Always the same' },
            { value: 'page-address', label: 'From the page’s address' },
          ]"
          @update:model-value="change('Take the hidden value', { source: $event })"
        />
      </div>
      <label class="field">
        <span class="name">{{
          field.source === 'fixed' ? 'The value' : 'Name in the address, as in ?from=letter'
        }}</span>
        <span v-if="field.source === 'page-address'" class="quiet small"
          >Filled on landing pages. In plain code it stays empty on most sites: browsers do not tell it.</span
        >
        <input
          class="plain-input"
          :value="field.value"
          @input="change('Set the hidden value', { value: textOf($event) })"
        />
      </label>
    </template>
    <ColumnChoice
      v-if="field.kind !== 'email' && field.kind !== 'topics'"
      :form="form"
      :field="field"
      @change="change('Keep the answer', { column: $event })"
    />
    <template v-if="isSeen">
      <div class="two">
        <div class="field">
          <span class="name">Width</span>
          <Choice
            label="Width"
            :model-value="field.width"
            :name="`width-${field.key}`"
            :options="[
              { value: 'full', label: 'Full' },
              { value: 'half', label: 'Half' },
            ]"
            @update:model-value="change('Set the width', { width: $event })"
          />
        </div>
        <label class="field">
          <span class="name">Step</span>
          <TypedInput
            class="plain-input"
            type="number"
            min="1"
            max="9"
            :value="field.step"
            @change="change('Put in a step', { step: Math.min(9, Math.max(1, Math.round(Number($event) || 1))) })"
          />
        </label>
      </div>
      <div v-if="field.kind !== 'email'" class="field">
        <label class="field">
          <span class="name">Ask it</span>
          <select class="plain-select" :value="field.showWhen?.field ?? ''" @change="dependOn(textOf($event))">
            <option value="">always</option>
            <option v-for="other in others" :key="other.key" :value="other.key">
              when “{{ fieldTitle(other) }}” is …
            </option>
          </select>
        </label>
        <template v-if="controlling && field.showWhen">
          <label v-for="answer in answersToDependOn(controlling)" :key="answer.key" class="row">
            <input
              type="checkbox"
              :checked="field.showWhen.is.includes(answer.key)"
              @change="setAnswer(answer.key, isTicked($event))"
            />
            {{ answer.label }}
          </label>
        </template>
        <span v-if="others.length === 0" class="quiet small"
          >To ask it only sometimes, first ask something with choices.</span
        >
      </div>
      <label class="field">
        <span class="name">Wording of its error</span>
        <input
          class="plain-input"
          :value="field.error"
          placeholder="as the form’s language has it"
          @input="change('Reword the error', { error: textOf($event) })"
        />
        <span class="quiet small"
          >In plain code the browser speaks first, in its own words; this is said on landing pages and when the form is
          shown again.</span
        >
      </label>
      <label v-if="hasAutofill" class="field">
        <span class="name">Browsers may fill in</span>
        <select
          class="plain-select"
          :value="field.autofill"
          @change="change('Set autofill', { autofill: textOf($event) })"
        >
          <option v-for="token in tokens" :key="token" :value="token">
            {{
              token === ''
                ? `the usual${suggestedAutofill(field.kind) ? ` (${suggestedAutofill(field.kind)})` : ' (nothing)'}`
                : token === 'off'
                  ? 'nothing (off)'
                  : token
            }}
          </option>
        </select>
      </label>
    </template>
  </div>
</template>

<style scoped>
.editor {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-3);
  padding: var(--gap-1) var(--gap-3) var(--gap-4) 26px;
}
.two {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(130px, 100%), 1fr));
  gap: var(--gap-3);
}
.editor .plain-select {
  width: 100%;
}
input[type='checkbox'] {
  width: 16px;
  height: 16px;
  accent-color: var(--moss);
}
</style>

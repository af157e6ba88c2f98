<script setup lang="ts">
import { ElCheckbox, ElInput } from 'element-plus'
import { computed } from 'vue'
import {
  answersToDependOn,
  autofillTokens,
  type Field,
  fieldChanged,
  fieldTitle,
  type Form,
  isBox,
  suggestedAutofill,
} from '#core/form'
import type { Draft } from '../../draft'
import Choice from '../../../controls/Choice.vue'
import Labelled from '../../../controls/Labelled.vue'
import NumberInput from '../../../controls/NumberInput.vue'
import Select from '../../../controls/Select.vue'
import ChoicesEditor from './ChoicesEditor.vue'
import ColumnChoice from './ColumnChoice.vue'

/** Everything about one field that is not written in the preview. */
const { form, field, fields, draft } = defineProps<{
  form: Form
  field: Field
  fields: readonly Field[]
  draft: Draft
}>()

const isInLine = computed(() => draft.content.value?.look.arrangement === 'line')

type Changes = Partial<Record<string, unknown>>
function change(step: string, changes: Changes): void {
  draft.change(`${step}: ${fieldTitle(field)}`, `${field.key} ${Object.keys(changes).join()}`, (changed) => {
    changed.fields = fieldChanged(changed.fields, field.key, changes as Partial<Field>)
  })
}

const isSeen = computed(() => field.kind !== 'hidden')
const hasLabel = computed(() => isSeen.value && !isBox(field))
const isOfMessage = computed(() => field.kind === 'message' || field.kind === 'subject' || field.kind === 'join-box')
const hasExample = computed(() =>
  [
    'email',
    'first-name',
    'last-name',
    'full-name',
    'phone',
    'website',
    'number',
    'line',
    'text',
    'message',
    'subject',
  ].includes(field.kind),
)
const hasAutofill = computed(() => hasExample.value && field.kind !== 'number')
const autofill = computed(() => {
  const usual = suggestedAutofill(field.kind)
  return [
    { value: '', label: usual === '' ? 'nothing, as usual' : `as usual: ${usual}` },
    { value: 'off', label: 'nothing (off)' },
    ...autofillTokens
      .filter((token) => !/^cc-|password|one-time/.test(token))
      .map((token) => ({ value: token, label: token })),
  ]
})
const others = computed(() => fields.filter((other) => other.key !== field.key && answersToDependOn(other).length > 0))
const conditions = computed(() => [
  { value: '', label: 'always' },
  ...others.value.map((other) => ({ value: other.key, label: `when “${fieldTitle(other)}” is …` })),
])
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
</script>

<template>
  <div class="editor">
    <Labelled v-if="hasLabel" label="Label">
      <ElInput :model-value="field.label" @input="change('Rewrite a label', { label: $event })" />
    </Labelled>
    <ElCheckbox
      v-if="hasLabel"
      :model-value="field.labelShown"
      @change="change('Show or hide the label', { labelShown: $event })"
      >Show the label</ElCheckbox
    >
    <p v-if="field.kind === 'consent'" class="quiet small">
      Write its words in the preview. They are kept with the receipt of everybody who ticks it. It never comes ticked.
    </p>
    <p v-if="field.kind === 'join-box'" class="quiet small">
      Write its words in the preview. Who ticks it joins the list, and its words are kept with their receipt; who leaves
      it alone sends a message and joins nothing. It never comes ticked, and it goes with the message.
    </p>
    <Labelled v-if="hasExample" label="Example inside">
      <ElInput :model-value="field.placeholder" @input="change('Rewrite an example', { placeholder: $event })" />
    </Labelled>
    <Labelled v-if="isSeen" label="Hint below the label">
      <ElInput :model-value="field.hint" @input="change('Rewrite a hint', { hint: $event })" />
    </Labelled>
    <ElCheckbox
      v-if="isSeen && field.kind !== 'email' && field.kind !== 'message' && field.kind !== 'join-box'"
      :model-value="field.required"
      @change="change('Require it or not', { required: $event })"
      >Must be answered</ElCheckbox
    >
    <ElCheckbox
      v-if="field.kind === 'birthday'"
      :model-value="field.withYear"
      @change="change('Ask the year or not', { withYear: $event })"
      >Ask the year too</ElCheckbox
    >
    <div v-if="field.kind === 'number'" class="two">
      <Labelled label="At least">
        <NumberInput allows-fractions :value="field.least" @change="change('Bound the number', { least: $event })" />
      </Labelled>
      <Labelled label="At most">
        <NumberInput allows-fractions :value="field.most" @change="change('Bound the number', { most: $event })" />
      </Labelled>
    </div>
    <ChoicesEditor
      v-if="field.kind === 'choose-one' || field.kind === 'choose-several' || field.kind === 'topics'"
      :choices="field.choices"
      :are-tags="field.kind === 'topics'"
      @change="change('Change the choices', { choices: $event })"
    />
    <Labelled v-if="field.kind === 'choose-one'" label="Shown as">
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
    </Labelled>
    <template v-if="field.kind === 'hidden'">
      <Labelled label="Name, for your eyes only">
        <ElInput :model-value="field.label" @input="change('Rename', { label: $event })" />
      </Labelled>
      <Labelled label="Its value">
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
      </Labelled>
      <Labelled
        :label="field.source === 'fixed' ? 'The value' : 'Name in the address, as in ?from=letter'"
        :hint="
          field.source === 'fixed'
            ? ''
            : 'Filled on landing pages. In plain code it stays empty on most sites: browsers do not tell it.'
        "
      >
        <ElInput :model-value="field.value" @input="change('Set the hidden value', { value: $event })" />
      </Labelled>
    </template>
    <ColumnChoice
      v-if="field.kind !== 'email' && field.kind !== 'topics' && !isOfMessage"
      :form="form"
      :field="field"
      @change="change('Keep the answer', { column: $event })"
    />
    <template v-if="isSeen">
      <div class="two">
        <Labelled
          label="Width"
          :hint="isInLine ? 'In one line all share the row. It holds once they stand under each other (Look).' : ''"
        >
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
        </Labelled>
        <Labelled label="Step">
          <NumberInput
            :least="1"
            :most="9"
            :value="field.step"
            @change="change('Put in a step', { step: $event ?? 1 })"
          />
        </Labelled>
      </div>
      <div v-if="field.kind !== 'email' && !isOfMessage">
        <Labelled
          label="Ask it"
          :hint="others.length === 0 ? 'To ask it only sometimes, first ask something with choices.' : ''"
        >
          <Select :model-value="field.showWhen?.field ?? ''" :options="conditions" @update:model-value="dependOn" />
        </Labelled>
        <div v-if="controlling && field.showWhen" class="answers">
          <ElCheckbox
            v-for="answer in answersToDependOn(controlling)"
            :key="answer.key"
            :model-value="field.showWhen.is.includes(answer.key)"
            @change="setAnswer(answer.key, $event === true)"
            >{{ answer.label }}</ElCheckbox
          >
        </div>
      </div>
      <Labelled
        v-if="field.kind !== 'join-box'"
        label="Wording of its error"
        hint="In plain code the browser speaks first, in its own words; this is said on landing pages and when the form is shown again."
      >
        <ElInput
          :model-value="field.error"
          placeholder="as the form’s language has it"
          @input="change('Reword the error', { error: $event })"
        />
      </Labelled>
      <Labelled v-if="hasAutofill" label="Browsers may fill in">
        <Select
          :model-value="field.autofill"
          :options="autofill"
          @update:model-value="change('Set autofill', { autofill: $event })"
        />
      </Labelled>
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
.answers {
  display: grid;
}
</style>

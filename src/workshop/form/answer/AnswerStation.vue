<script setup lang="ts">
import { ElButton, ElCheckbox, ElCheckboxGroup, ElInput } from 'element-plus'
import { computed, nextTick, ref, useTemplateRef } from 'vue'
import { RouterLink } from 'vue-router'
import {
  type Answer,
  type AnswerCase,
  answerTo,
  fieldTitle,
  type Form,
  type FormContent,
  ownPageOf,
  takesMessages,
} from '#core/form'
import type { StationState } from '#core/line'
import { outcomesWith } from '#core/mail'
import { signOf, wayBackTo } from '#core/render'
import { addressProblem } from '#core/site'
import type { Draft } from '../draft'
import { useWorkspace } from '../../data'
import { useNotices } from '../../notices'
import Changes from '../../controls/Changes.vue'
import AnswerPreview from './AnswerPreview.vue'
import ComebackPanel from './ComebackPanel.vue'
import Labelled from '../../controls/Labelled.vue'
import Choice from '../../controls/Choice.vue'
import Findings from '../../controls/Findings.vue'
import AnswerSheet from './AnswerSheet.vue'
import { answerNames, answerWhen, pressOn } from './cases'

/** Every answer on one sheet, and one of them in hand. */
const { form, draft, content, state } = defineProps<{
  form: Form
  draft: Draft
  content: FormContent
  state?: StationState
}>()

const workspace = useWorkspace()
const notices = useNotices()
const current = ref<AnswerCase>('joined')
const pageInput = useTemplateRef('pageInput')
const mail = computed(() => workspace.mail(form.list)?.draft ?? null)
/** Those that visitors meet with the list as it is, in the order in which they meet them. */
const inOrder: readonly AnswerCase[] = [
  'joined',
  'confirm-first',
  'confirmed',
  'already-waiting',
  'already-on-list',
  'message-sent',
  'not-possible',
  'link-expired',
  'left',
]
const confirm = computed(() => mail.value?.confirm ?? 'never')
const cases = computed((): AnswerCase[] => {
  const met: readonly AnswerCase[] = [
    ...outcomesWith(mail.value),
    ...(confirm.value === 'never' ? [] : (['already-waiting', 'confirmed', 'link-expired'] as const)),
    ...(takesMessages(content) ? (['message-sent'] as const) : []),
    ...(mail.value !== null ? (['left'] as const) : []),
    'not-possible',
  ]
  return inOrder.filter((one) => met.includes(one))
})
/** What somebody in a case reads first, or where they come to. */
function meet(one: AnswerCase): string {
  const answer = answerTo(content, one)
  if (answer.show === 'address') return 'come to a page of yours'
  const read = answer.heading.trim() || answer.message.trim()
  return `read “${read.length > LONGEST_READ ? `${read.slice(0, LONGEST_READ)} …` : read}”`
}
const LONGEST_READ = 60
const orderInWords = computed(
  () =>
    ({
      never: `After the button, visitors ${meet('joined')}: nobody has to confirm by mail.`,
      always: `After the button, visitors ${meet('confirm-first')}; after the press in the mail, they ${meet('confirmed')}: everybody confirms.`,
      regions: `After the button, visitors ${meet('joined')}; those from regions that confirm ${meet('confirm-first')}, and after the press in the mail they ${meet('confirmed')}.`,
    })[confirm.value],
)
const inHand = computed({
  get: () => (cases.value.includes(current.value) ? current.value : cases.value[0]!),
  set: (one) => (current.value = one),
})
const answer = computed(() => answerTo(content, inHand.value))
const show = computed<Answer['show']>({
  get: () => answer.value.show,
  set(way) {
    change(way === 'message' ? 'Answer with a message' : 'Answer with a page of one’s own', 'show', { show: way })
    // Who wants a page of their own goes on to name it.
    if (way === 'address') void nextTick(() => pageInput.value?.focus())
  },
})
const findings = computed(() => state?.findings.filter(({ about }) => about === inHand.value) ?? [])
/** Of answers that nobody meets as things are. */
const unmetFindings = computed(
  () =>
    state?.findings.filter(
      ({ about }) => about !== 'known' && !cases.value.includes(about as AnswerCase) && about !== undefined,
    ) ?? [],
)
/** Further moments of joining that may lead to the same page. */
const alsoFor = computed(() =>
  (['joined', 'confirm-first', 'confirmed'] as const).filter(
    (one) =>
      one !== inHand.value &&
      cases.value.includes(one) &&
      !(answerTo(content, one).show === 'address' && answerTo(content, one).address === answer.value.address),
  ),
)
function leadToo(one: AnswerCase): void {
  const { address, pass } = answer.value
  draft.change('Lead to the same page', `${one} show`, (changed) => {
    changed.answers[one] = { ...answerTo(changed, one), show: 'address', address, pass }
  })
}
const opensAt = computed(() => (addressProblem(answer.value.address) === null ? answer.value.address.trim() : null))
/** What may go along: what people answer. Whoever just left, or could not sign up, has nothing to pass. */
const passable = computed(() =>
  inHand.value === 'left' || inHand.value === 'not-possible' || inHand.value === 'link-expired'
    ? []
    : content.fields.map((field) => ({ key: field.key, label: fieldTitle(field) })),
)
const passed = computed(() => (answer.value.pass ?? []).filter((key) => passable.value.some((one) => one.key === key)))
const example = computed(() =>
  passed.value.length === 0 ? null : ownPageOf(answer.value, (key) => (passed.value.includes(key) ? '…' : '')),
)
const wayBack = computed(() => {
  const [spot] = workspace.spotsOf(form.id)
  const site = spot && workspace.site(spot.site)
  return site ? wayBackTo(site, spot.page) : null
})

function change(step: string, part: string, changes: Partial<Answer>): void {
  const one = inHand.value
  draft.change(step, `${one} ${part}`, (changed) => {
    changed.answers[one] = { ...answerTo(changed, one), ...changes }
  })
}

/** For who makes the after-page on the owner's own site. */
async function copyText(): Promise<void> {
  await navigator.clipboard.writeText(`${answer.value.heading}\n\n${answer.value.message}`)
  notices.done('Copied: put it on the page of your own.')
}
</script>

<template>
  <section class="answer" aria-label="Answer">
    <div class="order">
      <p>
        {{ orderInWords }}
        <RouterLink :to="{ name: 'form', params: { id: form.id, station: 'mail' } }">Who confirms</RouterLink>
      </p>
      <Findings :findings="unmetFindings" />
      <AnswerSheet v-model="inHand" :cases="cases" :content="content" />
    </div>
    <div class="station">
      <div class="work">
        <h2>{{ answerNames[inHand] }}</h2>
        <p class="quiet small">{{ answerWhen[inHand] }}</p>
        <AnswerPreview
          v-if="answer.show === 'message'"
          :answer="answer"
          :content="content"
          :way-back="wayBack"
          :press="pressOn(inHand, content.language)"
          :sign="signOf(inHand)"
        />
        <div v-else class="sheet leads">
          <p>The visitor is sent on to</p>
          <p v-if="opensAt" class="address">
            <a :href="opensAt" target="_blank" rel="noreferrer">{{ opensAt }}</a>
          </p>
          <p v-else class="quiet">an address that is still missing.</p>
          <p class="quiet small">Open it once: an after-page that does not exist yet is a common slip.</p>
        </div>
        <p v-if="state" class="small">{{ state.reason }}</p>
        <p class="quiet small">
          Plain code shows a message on a small page of its own, in the form’s colours and with a way back to the site.
          It needs no scripts.
        </p>
      </div>
      <div class="controls">
        <Changes>
          <fieldset class="group">
            <legend>The visitor gets</legend>
            <Choice
              v-model="show"
              name="show"
              :options="[
                { value: 'message', label: 'A message' },
                { value: 'address', label: 'A page of your own' },
              ]"
            />
            <template v-if="answer.show === 'message'">
              <Labelled label="Heading">
                <ElInput
                  :model-value="answer.heading"
                  @update:model-value="change('Rewrite the answer’s heading', 'heading', { heading: $event })"
                />
              </Labelled>
              <Labelled label="Message">
                <ElInput
                  type="textarea"
                  :rows="4"
                  :model-value="answer.message"
                  @update:model-value="change('Rewrite the answer', 'message', { message: $event })"
                />
              </Labelled>
            </template>
            <template v-else>
              <Labelled label="Address of the page">
                <ElInput
                  ref="pageInput"
                  type="url"
                  placeholder="https://"
                  :model-value="answer.address"
                  @update:model-value="change('Change the answer’s address', 'address', { address: $event })"
                />
              </Labelled>
              <div v-if="opensAt && alsoFor.length > 0" class="also">
                <span class="small">Lead there too:</span>
                <ElButton v-for="one in alsoFor" :key="one" size="small" @click="leadToo(one)">{{
                  answerNames[one]
                }}</ElButton>
              </div>
              <ElButton class="start" @click="copyText">Copy a text for that page</ElButton>
              <template v-if="passable.length > 0">
                <ElCheckboxGroup
                  class="passed"
                  aria-label="Goes along in the address"
                  :model-value="passed"
                  @update:model-value="
                    change('Change what goes along to the page', 'pass', { pass: $event.map((key) => String(key)) })
                  "
                >
                  <span class="small">Goes along in the address</span>
                  <ElCheckbox v-for="one in passable" :key="one.key" :value="one.key" :label="one.label" />
                </ElCheckboxGroup>
                <p v-if="example" class="small example">
                  <code>{{ example.replaceAll('%E2%80%A6', '…') }}</code>
                </p>
                <p v-if="passed.includes('email')" class="quiet small">
                  The address then stands where that page’s statistics may keep it.
                </p>
              </template>
            </template>
            <Findings :findings="findings" />
          </fieldset>
          <ComebackPanel
            :form="form"
            :content="content"
            :draft="draft"
            :findings="state?.findings.filter(({ about }) => about === 'known') ?? []"
          />
        </Changes>
      </div>
    </div>
  </section>
</template>

<style scoped>
.leads {
  display: grid;
  gap: var(--gap-2);
  min-height: 240px;
  place-content: center;
  padding: var(--gap-5);
  text-align: center;
}
.address {
  font-size: var(--text-l);
  overflow-wrap: anywhere;
}
.answer,
.order {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-5);
}
.order {
  gap: var(--gap-3);
}
.order p,
h2 {
  margin: 0;
}
.also {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--gap-2);
}
.also .el-button {
  margin: 0;
}
.start {
  justify-self: start;
}
.passed {
  display: grid;
}
.example {
  overflow-wrap: anywhere;
}
</style>

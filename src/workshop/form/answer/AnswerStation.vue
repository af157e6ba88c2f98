<script setup lang="ts">
import { ElInput } from 'element-plus'
import { computed, ref } from 'vue'
import { answerCases, type Answer, type AnswerCase, type Form, type FormContent } from '#core/form'
import type { StationState } from '#core/line'
import { addressProblem } from '#core/site'
import type { Draft } from '../draft'
import { useWorkspace } from '../../data'
import AnswerPreview from './AnswerPreview.vue'
import Labelled from '../../controls/Labelled.vue'
import Choice from '../../controls/Choice.vue'
import Findings from '../Findings.vue'

const { form, draft, content, state } = defineProps<{
  form: Form
  draft: Draft
  content: FormContent
  state?: StationState
}>()

const workspace = useWorkspace()
const current = ref<AnswerCase>('joined')
const caseNames: Record<AnswerCase, string> = { joined: 'Someone joined', 'already-on-list': 'Already on the list' }
const answer = computed(() => content.answers[current.value])
const show = computed<Answer['show']>({
  get: () => answer.value.show,
  set: (way) =>
    change(way === 'message' ? 'Answer with a message' : 'Answer with a page of one’s own', 'show', { show: way }),
})
const findings = computed(() => state?.findings.filter(({ about }) => about === current.value) ?? [])
const opensAt = computed(() => (addressProblem(answer.value.address) === null ? answer.value.address.trim() : null))
const wayBack = computed(() => {
  const [spot] = workspace.spotsOf(form.id)
  const site = spot && workspace.site(spot.site)
  return site ? { name: site.name, address: site.address } : null
})

function change(step: string, part: string, changes: Partial<Answer>): void {
  draft.change(step, `${current.value} ${part}`, (changed) => Object.assign(changed.answers[current.value], changes))
}
</script>

<template>
  <section class="station" aria-label="Answer">
    <div class="work">
      <AnswerPreview v-if="answer.show === 'message'" :answer="answer" :content="content" :way-back="wayBack" />
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
        Plain code shows a message on a small page of its own, in the form’s colours and with a way back to the site. It
        needs no scripts.
      </p>
    </div>
    <div class="controls">
      <fieldset class="group">
        <legend>When</legend>
        <Choice
          v-model="current"
          name="case"
          :options="answerCases.map((one) => ({ value: one, label: caseNames[one] }))"
        />
      </fieldset>
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
        <Labelled v-else label="Address of the page">
          <ElInput
            type="url"
            placeholder="https://"
            :model-value="answer.address"
            @update:model-value="change('Change the answer’s address', 'address', { address: $event })"
          />
        </Labelled>
        <Findings :findings="findings" />
      </fieldset>
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
</style>

<script setup lang="ts">
import { ElButton, ElCheckbox, ElForm, ElInput } from 'element-plus'
import { computed, ref, watch } from 'vue'
import { RouterLink } from 'vue-router'
import { sameContent, type Form, type FormContent } from '#core/form'
import { isTooEarly, rateWords } from '#core/results'
import { spotName } from '#core/spot'
import { MOST_WORDINGS, type Plan, viewsForAnyLook } from '#core/trial'
import Choice from '../../controls/Choice.vue'
import Labelled from '../../controls/Labelled.vue'
import NumberInput from '../../controls/NumberInput.vue'
import Select from '../../controls/Select.vue'
import { shownMoment } from '../../controls'
import { useWorkspace } from '../../data'
import { canKeep, trialProblem, useTrials } from './trials'

/** What is tried where, what difference matters, and how long that takes. */
const { form } = defineProps<{ form: Form }>()
const workspace = useWorkspace()
const trials = useTrials()
const latest = computed(() => workspace.latestVersion(form.id))
const places = computed(() =>
  workspace.spotsOf(form.id).map((spot) => {
    const site = workspace.site(spot.site)
    const isTrying = workspace.trials.some((one) => one.spot === spot.id && one.ended === undefined)
    const problem = isTrying ? 'a trial goes on there' : trialProblem(spot, site, latest.value?.content ?? form.draft)
    return { spot, name: spotName(spot, workspace.sites), problem, isTrying, canKeep: canKeep(spot, site) }
  }),
)
const open = computed(() => places.value.filter(({ problem }) => problem === null))
const spotChosen = ref<string>('')
const everywhereTrying = computed(() => places.value.length > 0 && places.value.every(({ isTrying }) => isTrying))
const place = computed(() => open.value.find(({ spot }) => spot.id === spotChosen.value) ?? open.value[0] ?? null)

const DRAFT = 0
const isDraftNew = computed(() => latest.value !== null && !sameContent(latest.value.content, form.draft))
const choices = computed(() => [
  ...(isDraftNew.value ? [{ value: DRAFT, label: 'The draft, as it is now' }] : []),
  ...workspace
    .versionsOf(form.id)
    .filter(({ number }) => number !== latest.value?.number)
    .toSorted((one, other) => other.number - one.number)
    .map(({ number, publishedAt }) => ({ value: number, label: `Version ${number}, ${shownMoment(publishedAt)}` })),
])
const others = ref<{ version: number | ''; name: string }[]>([])
const usualName = (version: number | '') =>
  version === DRAFT ? 'New words' : version === '' ? '' : `Version ${version}`
/** What its owner called it stays; any other name says what it is. */
function choose(at: number, version: number | ''): void {
  const one = others.value[at]!
  others.value[at] = { version, name: one.name === usualName(one.version) ? usualName(version) : one.name }
}
// The draft is one no more once it is published.
watch(
  choices,
  (now) => {
    others.value = others.value.filter(({ version }) => now.some(({ value }) => value === version))
    const [first] = now
    if (others.value.length === 0 && first !== undefined)
      others.value = [{ version: first.value, name: usualName(first.value) }]
  },
  { immediate: true },
)
const firstName = ref('As it was')
const free = computed(() => choices.value.filter(({ value }) => !others.value.some(({ version }) => version === value)))
const contentOf = (version: number): FormContent | null =>
  version === DRAFT ? form.draft : (trials.versionOf(form.id, version)?.content ?? null)

const isKept = ref(false)
const lately = computed(() => (place.value === null ? null : trials.lately(place.value.spot.id)))
const known = computed(() =>
  lately.value === null || lately.value.signUps === 0 || isTooEarly({ count: 0, of: lately.value.views })
    ? null
    : lately.value,
)
/** In 100. */
const guessed = ref(5)
const rate = computed(() => (known.value === null ? guessed.value / 100 : known.value.signUps / known.value.views))
const differences = computed(() =>
  [0.15, 0.25, 0.5].map((part) => {
    const inHundred = Number((rate.value * part * 100).toPrecision(2))
    return { value: String(part), label: `${inHundred} in 100 more` }
  }),
)
const part = ref('0.25')
const plan = computed((): Plan => {
  const wished = { rate: rate.value, difference: rate.value * Number(part.value) }
  return { ...wished, views: viewsForAnyLook(wished, Math.max(2, others.value.length + 1)) }
})
const all = computed(() => plan.value.views * (others.value.length + 1))
const until = computed(() => {
  if (lately.value === null) return null
  const days = Math.ceil(all.value / lately.value.viewsPerDay)
  return { days, at: new Date(Date.now() + days * 86_400_000) }
})
const LONG_DAYS = 90
const A_YEAR_DAYS = 365
const shownDate = (date: Date) => date.toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year: 'numeric' })

const isReady = computed(
  () =>
    place.value !== null &&
    others.value.length > 0 &&
    firstName.value.trim() !== '' &&
    others.value.every(
      // A draft that was published meanwhile is no other wording.
      ({ version, name }) => choices.value.some(({ value }) => value === version) && name.trim() !== '',
    ),
)
/** What is tried, as it would be shown. */
const chosen = computed(() => [
  ...(latest.value === null ? [] : [{ name: firstName.value.trim(), content: latest.value.content }]),
  ...others.value.flatMap(({ version, name }) => {
    const content = version === '' ? null : contentOf(version)
    return content === null ? [] : [{ name: name.trim(), content }]
  }),
])
const isBusy = ref(false)
async function begin(): Promise<void> {
  if (place.value === null || chosen.value.length < 2) return
  isBusy.value = true
  await trials.begin(place.value.spot, chosen.value, {
    plan: plan.value,
    isKept: isKept.value && place.value.canKeep,
  })
  isBusy.value = false
}
</script>

<template>
  <section class="sheet planner" aria-labelledby="planner-title">
    <h2 id="planner-title">A new trial</h2>
    <p v-if="latest === null" class="quiet">
      The form is not published yet. <RouterLink :to="{ name: 'form', params: { id: form.id } }">Publish it</RouterLink>
      first: the trial shows other words beside it.
    </p>
    <p v-else-if="everywhereTrying" class="quiet">Once the trial that goes on has ended, another can begin.</p>
    <p v-else-if="place === null" class="quiet">
      {{ places.length === 0 ? 'The form stands nowhere yet.' : 'Nothing can be tried where this form stands:' }}
      <template v-for="({ name, problem }, at) in places" :key="name"
        >{{ at > 0 ? '; ' : '' }}{{ name }}, {{ problem }}</template
      ><template v-if="places.length > 0"
        >. Words are shown in turn by script, in a frame, or on a page of its own:
        <RouterLink :to="{ name: 'form', params: { id: form.id, station: 'spot' } }"
          >choose one of these ways for its spot</RouterLink
        >, and paste its code anew.</template
      >
    </p>
    <p v-else-if="choices.length === 0" class="quiet">
      There are no other words yet.
      <RouterLink :to="{ name: 'form', params: { id: form.id, station: 'form' } }">Change the form’s draft</RouterLink>
      – words, fields, look, anything – without publishing it, and come back: the draft is tried beside what is
      published.
    </p>
    <ElForm v-else novalidate label-position="top" @submit.prevent="begin">
      <Labelled v-if="places.length > 1" label="Where">
        <Select
          :model-value="place.spot.id"
          label="Where"
          :options="open.map(({ spot, name }) => ({ value: spot.id, label: name }))"
          @update:model-value="spotChosen = $event"
        />
      </Labelled>
      <p v-for="{ name, problem } in places.filter((one) => one.problem !== null)" :key="name" class="quiet small">
        Not at {{ name }}: {{ problem }}.
      </p>
      <div class="wordings">
        <div class="other">
          <p class="now">Version {{ latest.number }}, as it stands there now</p>
          <Labelled label="Called">
            <ElInput v-model="firstName" maxlength="60" aria-label="Name of what stands there now" />
          </Labelled>
        </div>
        <div v-for="(one, at) in others" :key="at" class="other">
          <Labelled label="Beside it">
            <Select
              :model-value="one.version"
              label="What is tried beside it"
              :options="[...choices.filter(({ value }) => value === one.version), ...free]"
              @update:model-value="choose(at, $event)"
            />
          </Labelled>
          <Labelled label="Called">
            <ElInput v-model="one.name" maxlength="60" aria-label="Name of these words" />
          </Labelled>
          <ElButton v-if="others.length > 1" text @click="others.splice(at, 1)">Leave out</ElButton>
        </div>
        <ElButton
          v-if="free.length > 0 && others.length + 1 < MOST_WORDINGS"
          text
          @click="others.push({ version: free[0]!.value, name: usualName(free[0]!.value) })"
          >Another wording</ElButton
        >
      </div>
      <ElCheckbox v-if="place.canKeep" v-model="isKept"
        >Keep for each visitor which one they were shown, in their browser’s storage</ElCheckbox
      >
      <p class="quiet small">
        {{
          place.canKeep
            ? 'Otherwise it is by chance at each view, and nothing is stored. Some countries want consent for storage.'
            : 'Which one is shown is by chance at each view. Nothing is stored there.'
        }}
      </p>

      <h3>How long it takes</h3>
      <Labelled
        v-if="known === null"
        label="Sign-ups in 100 views, as you guess it"
        hint="Nothing counted says it yet."
      >
        <NumberInput
          class="guess"
          :value="guessed"
          :least="0.5"
          :most="60"
          allows-fractions
          @change="guessed = $event ?? guessed"
        />
      </Labelled>
      <p v-else>
        Now {{ rateWords({ count: known.signUps, of: known.views }) }} of those who see it sign up there ({{
          known.signUps.toLocaleString('en-GB')
        }}
        of {{ known.views.toLocaleString('en-GB') }} in four weeks).
      </p>
      <Labelled label="How much better would be worth a change?">
        <Choice v-model="part" name="difference" label="A difference you would act on" :options="differences" />
      </Labelled>
      <p class="plan" role="status">
        Up to {{ plan.views.toLocaleString('en-GB') }} views of each wording, {{ all.toLocaleString('en-GB') }} in
        all<template v-if="until"
          >: at today’s pace
          {{ until.days > A_YEAR_DAYS ? 'more than a year' : `until about ${shownDate(until.at)}` }}</template
        >.
        <template v-if="until && until.days > LONG_DAYS"
          >That is long: try where more people come, or words that differ more.</template
        >
      </p>
      <p class="quiet small">
        Then a difference of that size is found 8 times in 10, a larger one sooner. Look as often as you like: words
        that are alike are called different in at most 5 of 100 trials.
      </p>
      <div class="row">
        <ElButton type="primary" native-type="submit" :disabled="!isReady || undefined" :loading="isBusy"
          >Begin the trial</ElButton
        >
      </div>
    </ElForm>
  </section>
</template>

<style scoped>
.planner {
  padding: var(--gap-3) var(--gap-4) var(--gap-4);
}
h2 {
  margin: 0 0 var(--gap-2);
}
h3 {
  margin: var(--gap-2) 0 0;
}
p {
  margin: 0;
}
form,
.wordings {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-3);
}
form :deep(.el-form-item) {
  margin: 0;
}
.other {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr) minmax(0, auto);
  gap: var(--gap-2) var(--gap-3);
  align-items: end;
  max-width: 800px;
}
.now {
  padding-block: var(--gap-1);
}
@media (width <= 700px) {
  .other {
    grid-template-columns: minmax(0, 1fr);
  }
}
.plan {
  font-weight: 600;
}
.guess {
  width: 160px;
}
</style>

<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { RouterLink } from 'vue-router'
import type { FormId } from '#core/ids'
import { dayAfter } from '#core/results'
import { useWorkspace } from '../../data'
import { useTitle } from '../../title'
import { useResults } from '../results'
import Changes from '../../controls/Changes.vue'
import TrialPlanner from './TrialPlanner.vue'
import TrialSheet from './TrialSheet.vue'
import { DAYS_BEFORE } from './trials'
import Page from '../../controls/Page.vue'

/** A form's trials of wordings: those that go on, a new one, and what earlier ones said. */
const { id } = defineProps<{ id: string }>()
const workspace = useWorkspace()
const results = useResults()
results.load()
const form = computed(() => workspace.form(id as FormId))
useTitle(() => `Wordings of ${form.value?.name ?? 'a form'}`)
const trials = computed(() => workspace.trialsOf(id as FormId))
const going = computed(() => trials.value.filter(({ ended }) => ended === undefined))
const ended = computed(() => trials.value.filter((one) => one.ended !== undefined))

/** Views come without being told of; so often they are asked for. */
const LOOK_MS = 30_000
const from = computed(() =>
  [
    dayAfter(results.today(), -DAYS_BEFORE),
    ...going.value.map(({ startedAt }) => dayAfter(startedAt.slice(0, 10), -1)),
  ].reduce((first, day) => (day < first ? day : first)),
)
/** Until its own days were had once, views are none or those of another screen, and nothing may be judged by them. */
const hasLooked = ref(false)
async function look(): Promise<void> {
  await results.look({ from: from.value, to: dayAfter(results.today(), 1) })
  if (results.problem === null) hasLooked.value = true
}
watch([from, () => results.people], () => void look(), { immediate: true })
useIntervalFn(() => void look(), LOOK_MS)
</script>

<template>
  <Page class="trials" title="Try other words">
    <template #below
      ><p class="lead">
        <template v-if="form"
          >Two or more wordings of <RouterLink :to="{ name: 'form', params: { id } }">{{ form.name }}</RouterLink> are
          shown in turn at one spot, to learn which brings more people.</template
        >
        <template v-else-if="workspace.isLoaded">This form does not exist any more.</template>
      </p></template
    >
    <p v-if="results.problem" class="problem" role="alert">Views cannot be had now: {{ results.problem }}</p>
    <p v-if="!results.isReady || (!hasLooked && results.problem === null)" class="quiet" role="status">Counting …</p>
    <template v-else-if="form && hasLooked">
      <TrialSheet v-for="trial in going" :key="trial.id" :trial="trial" />
      <Changes>
        <TrialPlanner :form="form" />
      </Changes>
      <template v-if="ended.length > 0">
        <h2 class="earlier">Earlier trials</h2>
        <TrialSheet v-for="trial in ended" :key="trial.id" :trial="trial" />
      </template>
    </template>
  </Page>
</template>

<style scoped>
.trials {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-4);
}
.page-head p,
.earlier {
  margin: 0;
}
</style>

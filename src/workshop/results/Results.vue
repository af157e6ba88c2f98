<script setup lang="ts">
import { Download, Printer, Share2 } from '@lucide/vue'
import { ElButton, ElDatePicker } from 'element-plus'
import { computed, defineAsyncComponent, ref, watch } from 'vue'
import { RouterLink, useRoute } from 'vue-router'
import type { FormId, SpotId } from '#core/ids'
import { daysFrom, type Looked, type ResultKey, resultLines, type SignUpRow, wholeWay } from '#core/results'
import { spotName } from '#core/spot'
import { resultsPage } from '#core/report'
import { handToDownloads } from '../controls'
import Select from '../controls/Select.vue'
import { useWorkspace } from '../data'
import { useTitle } from '../title'
import { drawAllCharts, loadCharts, shortDay, useReport, providePeriod, shownPeriod } from '../charts'
import DaysChart from './DaysChart.vue'
import DelayChart from './DelayChart.vue'
import GrowthChart from '../charts/GrowthChart.vue'
import HoursChart from './HoursChart.vue'
import { useEvents } from './events'
import { periodBefore, type PeriodName, periodOf, periods } from './period'
import PlaceTable from './PlaceTable.vue'
import { useResults } from './results'
import UnusedForms from './UnusedForms.vue'
import WholeWay from './WholeWay.vue'
import { useReceiver } from '../sync'
import Page from '../controls/Page.vue'

/** What forms bring: by day, by place, and where people are lost on the way. */
useTitle(() => 'Results')
const workspace = useWorkspace()
const results = useResults()
results.load()
void loadCharts()

const name = ref<PeriodName>('30')
const own = ref<[string, string] | null>(null)
const route = useRoute()
const form = ref(typeof route.query.form === 'string' ? route.query.form : '')
const period = computed(() => periodOf(name.value, own.value, results.today()))
const before = computed(() => periodBefore(period.value))
providePeriod(() => shownPeriod(period.value.from, period.value.to))
watch([period, before], () => void results.lookOver([before.value, period.value]), { immediate: true })

const looked = computed((): Looked => ({ ...period.value, ...(form.value !== '' && { form: form.value as FormId }) }))
const linesOf = (key: ResultKey, where: Looked) =>
  resultLines({
    ...{ by: key, looked: where, signUps: results.people },
    ...{ seen: results.seen.rows, formOf: results.formOf },
  })
const spotLines = computed(() => linesOf('spot', looked.value))
const sums = computed(() => wholeWay(spotLines.value))
/** Where views are counted, the whole way is of those places alone: only there it narrows. */
const countedLines = computed(() => spotLines.value.filter(({ views: seen }) => seen !== null))
const way = computed(() => (countedLines.value.length === 0 ? sums.value : wholeWay(countedLines.value)))
const elsewhere = computed(() => sums.value.signUps - way.value.signUps)
const askedElsewhere = computed(() => sums.value.asked - way.value.asked)
const sumsBefore = computed(() => wholeWay(linesOf('spot', { ...looked.value, ...before.value })))
const days = computed(() => daysFrom(period.value.from, period.value.to))
const MOST_PARTS = 5
const rows = computed(() =>
  results.people.filter(
    ({ day, form: of }) =>
      day >= period.value.from && day <= period.value.to && (form.value === '' || of === form.value),
  ),
)
/** Sign-ups by day, of each form, spot or source that brings most, and of the others together. */
function partsOf(keyOf: (row: SignUpRow) => string, nameOf: (key: string) => string) {
  const byKey = new Map<string, Map<string, number>>()
  for (const row of rows.value) {
    const counts = byKey.get(keyOf(row)) ?? new Map<string, number>()
    byKey.set(keyOf(row), counts.set(row.day, (counts.get(row.day) ?? 0) + row.signUps))
  }
  const sum = (counts: Map<string, number>) => [...counts.values()].reduce((all, one) => all + one, 0)
  const ordered = [...byKey].toSorted(([, one], [, other]) => sum(other) - sum(one))
  const part = (key: string | null, label: string, all: Map<string, number>[]) => ({
    key,
    name: label,
    counts: days.value.map((day) => all.reduce((count, one) => count + (one.get(day) ?? 0), 0)),
  })
  const rest = ordered.slice(MOST_PARTS).map(([, counts]) => counts)
  return [
    ...ordered.slice(0, MOST_PARTS).map(([key, counts]) => part(key, nameOf(key), [counts])),
    ...(rest.length > 0 ? [part(null, 'Others', rest)] : []),
  ]
}
const partsBy = computed(() => ({
  form: partsOf(
    (row) => row.form,
    (id) => workspace.form(id as FormId)?.name ?? 'A form that is gone',
  ),
  spot: partsOf(
    (row) => row.spot,
    (id) => {
      const spot = workspace.spot(id as SpotId)
      return spot === null ? 'A spot that is gone' : spotName(spot, workspace.sites)
    },
  ),
  source: partsOf(
    (row) => row.source,
    (source) => source || 'Nothing told',
  ),
}))
/** Follows the workspace too: it may be read after the page was opened at one form. */
const moreLooked = computed(() => {
  const only = form.value === '' ? null : workspace.form(form.value as FormId)
  return {
    ...period.value,
    spots: only && workspace.spotsOf(only.id).map(({ id }) => id),
    lists: only && [only.list],
  }
})
watch(
  () => JSON.stringify(moreLooked.value),
  () => results.lookAtPeople(moreLooked.value),
  { immediate: true },
)
/** Of one form, the list that it feeds: it grows by other ways as well. */
const listOfForm = computed(() => {
  const only = form.value === '' ? null : workspace.form(form.value as FormId)
  return only === null ? null : (workspace.list(only.list)?.name ?? null)
})
const events = useEvents(
  () => period.value,
  () => (form.value === '' ? null : (form.value as FormId)),
  () => firstUse.value,
)
const firstUse = computed(() => {
  const bySpot = new Map<string, Map<number, string>>()
  for (const { spot, version, day } of results.people) {
    const days = bySpot.get(spot) ?? new Map<number, string>()
    if (day < (days.get(version) ?? '9999')) days.set(version, day)
    bySpot.set(spot, days)
  }
  return bySpot
})

/** The first day of which anything is kept: of the form that is looked at, or of all. */
const firstDay = computed(() => {
  const made = workspace.forms
    .filter(({ id }) => form.value === '' || id === form.value)
    .map(({ createdAt }) => createdAt.slice(0, 10))
  const days = results.people.filter(({ form: of }) => form.value === '' || of === form.value).map(({ day }) => day)
  return [...made, ...days].toSorted()[0] ?? null
})
const people = (count: number) => `${count.toLocaleString('en-GB')} ${count === 1 ? 'person' : 'people'}`
const sentence = computed(() => {
  const [now, then] = [sums.value.signUps, sumsBefore.value.signUps]
  if (now === 0 && then === 0) return 'Nobody signed up in this time, nor in as many days before.'
  const start = `${people(now)} signed up, and ${sums.value.confirmed.toLocaleString('en-GB')} came onto a list`
  // What was not kept yet is not known to have been nobody.
  if (firstDay.value === null || firstDay.value > before.value.from)
    return `${start}. ${firstDay.value === null ? 'Nothing' : `Before ${shortDay(firstDay.value)} nothing`} was kept that this could be held against.`
  const change =
    now === then
      ? 'as many as'
      : `${Math.abs(now - then).toLocaleString('en-GB')} ${now > then ? 'more than' : 'fewer than'}`
  return `${start}: ${change} in the ${days.value.length} days before.`
})
const formChoices = computed(() => [
  { value: '', label: 'All forms' },
  ...workspace.forms.map(({ id, name: label }) => ({ value: id as string, label })),
])
const print = () => void drawAllCharts().then(() => window.print())
const report = useReport()
const receiver = useReceiver()
const ClientPages = defineAsyncComponent(() => import('./ClientPages.vue'))
const isSharing = ref(false)
/** For a client or a meeting: one file that needs nothing else. */
async function savePage(): Promise<void> {
  const chosen = formChoices.value.find(({ value }) => value === form.value)?.label ?? ''
  const { from, to } = period.value
  const html = resultsPage({
    title: 'Results',
    about: `${chosen}, ${shortDay(from)} to ${shortDay(to)} ${to.slice(0, 4)}`,
    lead: sentence.value,
    parts: await report(),
  })
  handToDownloads({ blob: new Blob([html], { type: 'text/html' }), name: `results-${from}-to-${to}.html` })
}
</script>

<template>
  <Page class="results" title="Results">
    <template #below
      ><p v-if="results.isReady" class="lead">{{ sentence }}</p></template
    >
    <template #actions>
      <span class="row no-print">
        <ElButton v-if="receiver.pairing && !receiver.looksOn" @click="isSharing = true"
          ><Share2 :size="16" /><span>A page for a client</span></ElButton
        >
        <ElButton :disabled="!results.isReady" @click="savePage()"
          ><Download :size="16" /><span>Save as a page</span></ElButton
        >
        <ElButton @click="print()"><Printer :size="16" /><span>Print</span></ElButton>
      </span>
    </template>
    <ClientPages v-if="isSharing" @close="isSharing = false" />
    <div class="row choices no-print">
      <Select
        :model-value="name"
        label="Which time"
        :options="periods"
        @update:model-value="name = $event as PeriodName"
      />
      <ElDatePicker
        v-if="name === 'own'"
        v-model="own"
        type="daterange"
        value-format="YYYY-MM-DD"
        start-placeholder="From"
        end-placeholder="To"
        :clearable="false"
      />
      <Select v-model="form" label="Which forms" :options="formChoices" />
      <RouterLink v-if="form !== ''" :to="{ name: 'trials', params: { id: form } }">Try other words</RouterLink>
    </div>
    <p v-if="results.problem" class="problem" role="alert">Views cannot be had now: {{ results.problem }}</p>
    <p v-if="!results.isReady" class="quiet" role="status">Counting …</p>
    <p v-else-if="workspace.forms.length === 0" class="quiet">
      There is no form yet. <RouterLink :to="{ name: 'new-form' }">Make one</RouterLink>, and what it brings is shown
      here.
    </p>
    <template v-else>
      <section class="sheet way" aria-labelledby="way-title">
        <h2 id="way-title">The whole way</h2>
        <WholeWay :sums="way" />
        <p v-if="elsewhere > 0" class="quiet small">
          Of the places where views are counted. {{ people(elsewhere) }} more signed up where nothing counts them, by
          code without a script<template v-if="askedElsewhere > 0"
            >; {{ askedElsewhere.toLocaleString('en-GB') }} of these were asked to confirm</template
          >.
        </p>
      </section>
      <DaysChart :days="days" :parts-by="partsBy" :events="events" />
      <PlaceTable :looked="looked" :set-aside="sums.setAside" />
      <div v-if="results.comings" class="comings">
        <GrowthChart
          :order="3"
          :days="days"
          :growth="results.comings.growth"
          :title="listOfForm === null ? 'How lists grew' : `How “${listOfForm}” grew, by whatever way`"
          :onto="listOfForm === null ? 'a list' : `“${listOfForm}” as a whole, by this form, by others or by hand`"
        />
        <HoursChart :hours="results.comings.hours" />
        <DelayChart :delays="results.comings.delays" />
      </div>
      <UnusedForms />
    </template>
  </Page>
</template>

<style scoped>
.results {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-4);
}
.page-head p {
  margin: 0;
}
.choices :deep(.el-select) {
  width: 200px;
}
.comings {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(100%, 480px), 1fr));
  gap: var(--gap-4);
}
.way {
  padding: var(--gap-3) var(--gap-4);
}
.way p {
  margin: var(--gap-2) 0 0;
}
@media print {
  .no-print {
    display: none !important;
  }
}
</style>

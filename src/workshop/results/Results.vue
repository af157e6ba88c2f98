<script setup lang="ts">
import { Download, Printer } from '@lucide/vue'
import { ElButton, ElDatePicker, ElTable, ElTableColumn } from 'element-plus'
import { jStat } from 'jstat'
import { computed, ref, watch } from 'vue'
import { RouterLink, useRoute } from 'vue-router'
import { codeOf } from '#core/embed'
import type { FormId, SpotId } from '#core/ids'
import {
  behindBest,
  daysFrom,
  isTooEarly,
  type Looked,
  type ResultKey,
  resultLines,
  wholeWay,
  wilson,
} from '#core/results'
import { spotName } from '#core/spot'
import { handToDownloads } from '../controls/downloads'
import Select from '../controls/Select.vue'
import Views from '../controls/Views.vue'
import { useWorkspace } from '../data'
import { useTitle } from '../title'
import DaysChart from './DaysChart.vue'
import { resultsCsv } from './csv'
import { useEvents } from './events'
import { periodBefore, type PeriodName, periodOf, periods } from './period'
import RateBar from './RateBar.vue'
import { useResults } from './results'
import WholeWay from './WholeWay.vue'

/** What forms bring: by day, by place, and where people are lost on the way. */
useTitle(() => 'Results')
const workspace = useWorkspace()
const results = useResults()
results.load()

const name = ref<PeriodName>('30')
const own = ref<[string, string] | null>(null)
const route = useRoute()
const form = ref(typeof route.query.form === 'string' ? route.query.form : '')
const by = ref<Exclude<ResultKey, 'day'>>('spot')
const period = computed(() => periodOf(name.value, own.value, results.today()))
const before = computed(() => periodBefore(period.value))
watch([period, before], () => void results.look({ from: before.value.from, to: period.value.to }), { immediate: true })

const looked = computed((): Looked => ({ ...period.value, ...(form.value !== '' && { form: form.value as FormId }) }))
const linesOf = (key: ResultKey, where: Looked) =>
  resultLines(key, where, results.people.rows, results.seen.rows, results.places)
const spotLines = computed(() => linesOf('spot', looked.value))
const sums = computed(() => wholeWay(spotLines.value))
/** Where views are counted, the whole way is of those places alone: only there it narrows. */
const countedLines = computed(() => spotLines.value.filter(({ views: seen }) => seen !== null))
const way = computed(() => (countedLines.value.length === 0 ? sums.value : wholeWay(countedLines.value)))
const elsewhere = computed(() => sums.value.signUps - way.value.signUps)
const sumsBefore = computed(() => wholeWay(linesOf('spot', { ...looked.value, ...before.value })))
const lines = computed(() => {
  const found = linesOf(by.value, looked.value)
  const isBehind = behindBest(
    found.map(({ rate }) => rate ?? { count: 0, of: 0 }),
    (share) => jStat.normal.inv(share, 0, 1),
  )
  return found.map((line, at) => ({
    line,
    name: nameOf(line.key),
    about: aboutOf(line.key),
    to: linkOf(line.key),
    isBehind: isBehind[at]!,
  }))
})
type Shown = (typeof lines.value)[number]
const bySize = (sizeOf: (row: Shown) => number) => (one: Shown, other: Shown) => sizeOf(one) - sizeOf(other)
const most = computed(() =>
  Math.max(0, ...lines.value.map(({ line: { rate } }) => (rate === null || isTooEarly(rate) ? 0 : wilson(rate).high))),
)
/** Rates that chance alone may have put in this order. */
const alike = computed(() => {
  const known = lines.value.filter(({ line: { rate } }) => rate !== null && !isTooEarly(rate))
  return known.length > 1 && known.every(({ isBehind }) => !isBehind)
})
const setAside = computed(() => sums.value.setAside)

function nameOf(key: string): string {
  switch (by.value) {
    case 'spot': {
      const spot = workspace.spot(key as SpotId)
      return spot === null ? 'A spot that is gone' : spotName(spot, workspace.sites)
    }
    case 'form':
      return workspace.form(key as FormId)?.name ?? 'A form that is gone'
    case 'source':
      return key === '' ? 'Nothing told' : key
    case 'version': {
      const [id, number] = key.split(' ')
      return `${workspace.form(id as FormId)?.name ?? 'A form that is gone'}, version ${number}`
    }
  }
}
/** Of a spot, what its list is called: several may be on one site. */
function aboutOf(key: string): string {
  const spot = by.value === 'spot' ? workspace.spot(key as SpotId) : null
  const list = spot === null ? undefined : workspace.form(spot.form)?.list
  return list === undefined ? '' : (workspace.list(list)?.name ?? '')
}
function linkOf(key: string) {
  const spot = by.value === 'spot' ? workspace.spot(key as SpotId) : null
  const id = by.value === 'form' ? key : by.value === 'version' ? key.split(' ')[0] : spot?.form
  return id !== undefined && workspace.form(id as FormId) !== null ? { name: 'form', params: { id } } : null
}
/** Why a spot has no views. */
function unknownViews(key: string): string {
  const spot = by.value === 'spot' ? workspace.spot(key as SpotId) : null
  if (spot === null) return 'not counted'
  const code = codeOf(spot, workspace.site(spot.site))
  return code === 'script' || code === 'frame' || spot.kind === 'landing' ? 'none yet' : 'not counted: no script there'
}

const days = computed(() => daysFrom(period.value.from, period.value.to))
const MOST_PARTS = 5
const parts = computed(() => {
  const rows = results.people.rows.filter(
    ({ day, form: of }) =>
      day >= period.value.from && day <= period.value.to && (form.value === '' || of === form.value),
  )
  const byForm = new Map<FormId, Map<string, number>>()
  for (const { form: id, day, signUps } of rows) {
    const counts = byForm.get(id) ?? new Map<string, number>()
    byForm.set(id, counts.set(day, (counts.get(day) ?? 0) + signUps))
  }
  const sum = (counts: Map<string, number>) => [...counts.values()].reduce((all, one) => all + one, 0)
  const ordered = [...byForm].toSorted(([, one], [, other]) => sum(other) - sum(one))
  const part = (label: string, all: Map<string, number>[]) => ({
    name: label,
    counts: days.value.map((day) => all.reduce((count, one) => count + (one.get(day) ?? 0), 0)),
  })
  const rest = ordered.slice(MOST_PARTS).map(([, counts]) => counts)
  return [
    ...ordered
      .slice(0, MOST_PARTS)
      .map(([id, counts]) => part(workspace.form(id)?.name ?? 'A form that is gone', [counts])),
    ...(rest.length > 0 ? [part('Others', rest)] : []),
  ]
})
const events = useEvents(
  () => period.value,
  () => (form.value === '' ? null : (form.value as FormId)),
)

const people = (count: number) => `${count.toLocaleString('en-GB')} ${count === 1 ? 'person' : 'people'}`
const sentence = computed(() => {
  const [now, then] = [sums.value.signUps, sumsBefore.value.signUps]
  if (now === 0 && then === 0) return 'Nobody signed up in this time, nor in as many days before.'
  const change =
    now === then
      ? 'as many as'
      : `${Math.abs(now - then).toLocaleString('en-GB')} ${now > then ? 'more than' : 'fewer than'}`
  return `${people(now)} signed up, and ${sums.value.confirmed.toLocaleString('en-GB')} came onto a list: ${change} in the ${days.value.length} days before.`
})
const formChoices = computed(() => [
  { value: '', label: 'All forms' },
  ...workspace.forms.map(({ id, name: label }) => ({ value: id as string, label })),
])
const views = [
  { value: 'spot', label: 'By spot' },
  { value: 'form', label: 'By form' },
  { value: 'source', label: 'By source' },
  { value: 'version', label: 'By version' },
] as const

function saveCsv(): void {
  const heading = { spot: 'Spot', form: 'Form', source: 'Source', version: 'Version' }[by.value]
  handToDownloads({
    blob: new Blob([resultsCsv(heading, lines.value)], { type: 'text/csv;charset=utf-8' }),
    name: `results-${period.value.from}-to-${period.value.to}.csv`,
  })
}
const print = () => window.print()
</script>

<template>
  <div class="page results">
    <div class="page-head">
      <div>
        <h1>Results</h1>
        <p v-if="results.isReady" class="lead">{{ sentence }}</p>
      </div>
      <span class="row no-print">
        <ElButton @click="print()"><Printer :size="16" /><span>Print</span></ElButton>
        <ElButton @click="saveCsv()"><Download :size="16" /><span>Save as CSV</span></ElButton>
      </span>
    </div>
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
    </div>
    <p v-if="results.problem" class="problem" role="alert">Views cannot be had now: {{ results.problem }}</p>
    <p v-if="results.isReady && workspace.forms.length === 0" class="quiet">
      There is no form yet. <RouterLink :to="{ name: 'new-form' }">Make one</RouterLink>, and what it brings is shown
      here.
    </p>
    <template v-else>
      <section class="sheet way" aria-labelledby="way-title">
        <h2 id="way-title">The whole way</h2>
        <WholeWay :sums="way" />
        <p v-if="elsewhere > 0" class="quiet small">
          Of the places where views are counted. {{ people(elsewhere) }} more signed up where nothing counts them: by
          code without a script.
        </p>
      </section>
      <DaysChart :days="days" :parts="parts" :events="events" />
      <section class="sheet table" aria-labelledby="table-title">
        <h2 id="table-title" class="hidden">Place by place</h2>
        <Views v-model="by" label="By what" :views="views" class="no-print" />
        <ElTable :data="lines" row-key="line.key" empty-text="Nothing in this time.">
          <ElTableColumn label="Where" min-width="220" sortable :sort-by="(row: Shown) => row.name">
            <template #default="{ row }: { row: Shown }">
              <RouterLink v-if="row.to" :to="row.to">{{ row.name }}</RouterLink><span v-else>{{ row.name }}</span>
              <div v-if="row.about" class="quiet small">{{ row.about }}</div>
            </template>
          </ElTableColumn>
          <ElTableColumn
            label="Views"
            align="right"
            width="110"
            sortable
            :sort-method="bySize(({ line }) => line.views ?? -1)"
          >
            <template #default="{ row }: { row: Shown }">
              <span v-if="row.line.views !== null">{{ row.line.views.toLocaleString('en-GB') }}</span>
              <span v-else class="quiet small">{{ unknownViews(row.line.key) }}</span>
            </template>
          </ElTableColumn>
          <ElTableColumn
            label="Began"
            align="right"
            width="90"
            sortable
            :sort-method="bySize(({ line }) => line.starts ?? -1)"
          >
            <template #default="{ row }: { row: Shown }">{{ row.line.starts?.toLocaleString('en-GB') ?? '' }}</template>
          </ElTableColumn>
          <ElTableColumn
            label="Signed up"
            align="right"
            width="110"
            sortable
            :sort-method="bySize(({ line }) => line.signUps)"
          >
            <template #default="{ row }: { row: Shown }">{{ row.line.signUps.toLocaleString('en-GB') }}</template>
          </ElTableColumn>
          <ElTableColumn
            label="On a list"
            align="right"
            width="100"
            sortable
            :sort-method="bySize(({ line }) => line.confirmed)"
          >
            <template #default="{ row }: { row: Shown }">{{ row.line.confirmed.toLocaleString('en-GB') }}</template>
          </ElTableColumn>
          <ElTableColumn
            label="Of those who saw it"
            min-width="190"
            sortable
            :sort-method="bySize(({ line: { rate } }) => (rate ? rate.count / rate.of : -1))"
          >
            <template #default="{ row }: { row: Shown }">
              <RateBar :count="row.line.rate" :most="most" :is-behind="row.isBehind" />
            </template>
          </ElTableColumn>
        </ElTable>
        <p v-if="alike" class="quiet small">
          These rates cannot be told apart yet: their order may be chance. More views will tell.
        </p>
        <p v-if="setAside > 0" class="quiet small">
          {{ setAside.toLocaleString('en-GB') }} views are not counted: they came from a few networks, more than people
          would.
        </p>
      </section>
    </template>
  </div>
</template>

<style scoped>
.results {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-4);
}
.page-head {
  margin: 0;
}
.page-head p {
  margin: 0;
}
.choices :deep(.el-select) {
  width: 200px;
}
.way,
.table {
  padding: var(--gap-3) var(--gap-4);
}
.table p,
.way p {
  margin: var(--gap-2) 0 0;
}
.hidden {
  position: absolute;
  width: 1px;
  height: 1px;
  overflow: hidden;
  clip-path: inset(50%);
}
@media print {
  .no-print {
    display: none !important;
  }
}
</style>

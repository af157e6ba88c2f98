<script setup lang="ts">
import { Download } from '@lucide/vue'
import { ElButton, ElTable, ElTableColumn } from 'element-plus'
import { jStat } from 'jstat'
import { computed, ref } from 'vue'
import { RouterLink } from 'vue-router'
import { countsViews } from '#core/embed'
import type { FormId, SpotId } from '#core/ids'
import { behindBest, isTooEarly, type Looked, rateWords, type ResultKey, resultLines, wilson } from '#core/results'
import { spotName } from '#core/spot'
import { handToDownloads, vHint } from '../controls'
import Views from '../controls/Views.vue'
import { useWorkspace } from '../data'
import { resultsCsv } from './csv'
import RateBar from './RateBar.vue'
import { useReportPart } from '../charts'
import { useResults } from './results'
import { stacked } from '../controls'

/** Sums by spot, form, source or version, each rate with its interval; nothing is ranked that chance may have ordered. */
const { looked, setAside } = defineProps<{ looked: Looked; setAside: number }>()
const workspace = useWorkspace()
const results = useResults()
const by = ref<Exclude<ResultKey, 'day'>>('spot')
const lines = computed(() => {
  const found = resultLines({
    ...{ by: by.value, looked, signUps: results.people },
    ...{ seen: results.seen.rows, formOf: results.formOf },
  })
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
/** So many rows are drawn at first: more take a while, and few look at them. */
const FIRST_ROWS = 25
const showsAll = ref(false)
const drawn = computed(() => (showsAll.value ? lines.value : lines.value.slice(0, FIRST_ROWS)))
const most = computed(() =>
  Math.max(0, ...lines.value.map(({ line: { rate } }) => (rate === null || isTooEarly(rate) ? 0 : wilson(rate).high))),
)
/** Rates that chance alone may have put in this order. */
const alike = computed(() => {
  const known = lines.value.filter(({ line: { rate } }) => rate !== null && !isTooEarly(rate))
  return known.length > 1 && known.every(({ isBehind }) => !isBehind)
})

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
      const wording = workspace
        .trialsOf(id as FormId)
        .flatMap(({ wordings }) => wordings)
        .find(({ version }) => version === Number(number))
      const which = wording === undefined ? `version ${number}` : `tried as “${wording.name}” (version ${number})`
      return `${workspace.form(id as FormId)?.name ?? 'A form that is gone'}, ${which}`
    }
  }
}
/** What its list is called: several forms may be on one site. */
function aboutOf(key: string): string {
  if (by.value === 'source') return ''
  const form = by.value === 'spot' ? workspace.spot(key as SpotId)?.form : (key.split(' ')[0] as FormId)
  const list = form === undefined ? undefined : workspace.form(form)?.list
  return list === undefined ? '' : (workspace.list(list)?.name ?? '')
}
function linkOf(key: string) {
  const spot = by.value === 'spot' ? workspace.spot(key as SpotId) : null
  const id = by.value === 'form' ? key : by.value === 'version' ? key.split(' ')[0] : spot?.form
  return id !== undefined && workspace.form(id as FormId) !== null ? { name: 'form', params: { id } } : null
}
/** Why a spot has no views. */
function unknownViews(key: string, signUps: number): string {
  const spot = by.value === 'spot' ? workspace.spot(key as SpotId) : null
  if (spot === null) return 'not counted'
  if (!countsViews(spot, workspace.site(spot.site))) return 'no script there, so they are not counted'
  return signUps === 0
    ? 'none yet'
    : 'none yet: who signed up did so with an automated browser, or asks not to be counted; such visits count no views'
}

const views = [
  { value: 'spot', label: 'By spot' },
  { value: 'form', label: 'By form' },
  { value: 'source', label: 'By source' },
  { value: 'version', label: 'By version' },
] as const

const headings = { spot: 'Spot', form: 'Form', source: 'Source', version: 'Version' }
useReportPart(2, () =>
  Promise.resolve({
    title: 'Place by place',
    words: alike.value ? 'These rates cannot be told apart yet: their order may be chance.' : '',
    picture: null,
    columns: [
      { label: headings[by.value] },
      { label: 'Views', isNumber: true },
      { label: 'Signed up', isNumber: true },
      { label: 'On a list', isNumber: true },
      { label: 'Of those who saw it' },
    ],
    rows: lines.value.map(({ name, about, line }) => [
      about === '' ? name : `${name}: ${about}`,
      line.views === null ? 'not counted' : line.views.toLocaleString('en-GB'),
      line.signUps.toLocaleString('en-GB'),
      line.confirmed.toLocaleString('en-GB'),
      line.rate === null ? '' : rateWords(line.rate),
    ]),
    isOpen: true,
  }),
)

function saveCsv(): void {
  const heading = headings[by.value]
  handToDownloads({
    blob: new Blob([resultsCsv(heading, lines.value)], { type: 'text/csv;charset=utf-8' }),
    name: `results-${looked.from}-to-${looked.to}.csv`,
  })
}
</script>

<template>
  <section class="sheet table" aria-labelledby="table-title">
    <div class="head no-print">
      <h2 id="table-title" class="hidden">Place by place</h2>
      <Views v-model="by" label="By what" :views="views" />
      <ElButton text size="small" @click="saveCsv()"><Download :size="14" /><span>Save as CSV</span></ElButton>
    </div>
    <ElTable
      v-bind="stacked"
      :data="drawn"
      @sort-change="showsAll = true"
      row-key="line.key"
      empty-text="Nothing in this time."
    >
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
          <span v-else v-hint="unknownViews(row.line.key, row.line.signUps)" class="quiet" tabindex="0"
            >—<span class="only-heard">{{ unknownViews(row.line.key, row.line.signUps) }}</span></span
          >
        </template>
      </ElTableColumn>
      <ElTableColumn
        label="Started typing"
        align="right"
        width="130"
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
    <ElButton v-if="lines.length > drawn.length" class="no-print" text size="small" @click="showsAll = true"
      >Show all {{ lines.length }}</ElButton
    >
    <p v-if="alike" class="quiet small">
      These rates cannot be told apart yet: their order may be chance. More views will tell.
    </p>
    <p v-if="setAside > 0" class="quiet small">
      {{ setAside.toLocaleString('en-GB') }} views are not counted: they came from a few networks, more than people
      would.
    </p>
  </section>
</template>

<style scoped>
.table {
  padding: var(--gap-3) var(--gap-4);
}
.head {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: var(--gap-2);
  align-items: center;
}
p {
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

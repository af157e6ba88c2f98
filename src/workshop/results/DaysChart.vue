<script setup lang="ts">
import { useMediaQuery, useWindowSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import Select from '../controls/Select.vue'
import { useWorkspace } from '../data'
import { baseOptions, colour, colourPlaces, othersColour, partColours, tooltip, shortDay } from '../charts'
import ChartSheet from '../charts/ChartSheet.vue'
import { labelRows, widthsIn } from '../charts'
import type { ResultEvent } from './events'

/** Sign-ups by day, in parts; with its table, and what happened on which day. */
interface DayPart {
  /** Null for all others together. */
  key: string | null
  name: string
  counts: readonly number[]
}
const { days, partsBy, events } = defineProps<{
  days: readonly string[]
  /** The same sign-ups, taken apart in several ways. */
  partsBy: Readonly<Record<'form' | 'spot' | 'source', readonly DayPart[]>>
  events: readonly ResultEvent[]
}>()
const by = ref<'form' | 'spot' | 'source'>('form')
const workspace = useWorkspace()
/** A form has the same colour wherever it is drawn: by when it was made, and so has a spot. */
const colours = computed(() => {
  const made = { form: workspace.forms, spot: workspace.spots, source: [] }[by.value]
  const order = [...made].sort((one, other) => (one.createdAt < other.createdAt ? -1 : 1)).map(({ id }) => String(id))
  const keys = parts.value.flatMap(({ key }) => (key === null ? [] : [key]))
  const palette = partColours()
  const places = colourPlaces(keys, by.value === 'source' ? keys : order)
  return parts.value.map(({ key }) => (key === null ? othersColour() : palette[places[keys.indexOf(key)]!]!))
})
const parts = computed(() => partsBy[by.value])
const total = computed(() => days.map((_, at) => parts.value.reduce((all, { counts }) => all + (counts[at] ?? 0), 0)))
const most = computed(() => Math.max(0, ...total.value))
const eventsOn = (day: string) =>
  events
    .filter((one) => one.day === day)
    .map(({ text }) => text)
    .join('; ')
/** In the chart: the first by name, and how many more. The table has them whole. */
function shortOn(day: string): string {
  const short = [...new Set(events.filter((one) => one.day === day).map((one) => one.short))]
  return short.length > 1 ? `${short[0]} +${short.length - 1}` : (short[0] ?? '')
}
/** On a phone the names of parts stand below each other, and those of events would lie over each other: the table has them. */
const isNarrow = useMediaQuery('(max-width: 640px)')
const HEIGHT_PX = 280
const NAME_PX = 26
const height = computed(() => HEIGHT_PX + (isNarrow.value ? parts.value.length * NAME_PX : 0))
const EVENT_ROWS = 3
const EVENT_ROW_PX = 14
const rows = computed(() =>
  days
    .map((day, at) => ({
      day: shortDay(day),
      total: total.value[at],
      parts: parts.value.flatMap(({ name, counts }) => (counts[at] ? [`${name}: ${counts[at]}`] : [])).join('; '),
      events: eventsOn(day),
    }))
    .reverse(),
)
const columns = [
  { prop: 'day', label: 'Day' },
  { prop: 'total', label: 'Sign-ups', isNumber: true },
  { prop: 'parts', label: 'From where' },
  { prop: 'events', label: 'What happened' },
]

/** Days on which something happened, each with its label's row; one that has no room above the chart stands in the table alone. */
function labelled(font: string) {
  const width = Math.max(200, Math.min(MOST_CHART_PX, windowWidth.value - CHART_BESIDE_PX))
  const wide = widthsIn(`11px ${font}`)
  const all = [...new Set(events.map(({ day }) => day))]
    .filter((day) => days.includes(day))
    .map((day) => ({ day, text: shortOn(day), isEnd: days.indexOf(day) > days.length / 2 }))
  const rows = labelRows(
    all.map(({ day, text, isEnd }) => {
      const at = ((days.indexOf(day) + 0.5) / days.length) * width
      const long = wide(text) + LABEL_BETWEEN_PX
      return isEnd ? { from: at - long, to: at } : { from: at, to: at + long }
    }),
    EVENT_ROWS,
  )
  return all.map((one, at) => ({ ...one, row: isNarrow.value ? null : rows[at]! }))
}
const { width: windowWidth } = useWindowSize()
/** The chart’s plot at the page’s full width, and what stands beside it at less, in CSS pixels. */
const MOST_CHART_PX = 1_130
const CHART_BESIDE_PX = 150
const LABEL_BETWEEN_PX = 10

const options = computed(() => {
  if (days.length === 0) return null
  const base = baseOptions()
  const marked = labelled(base.chart?.fontFamily ?? 'sans-serif')
  return {
    ...base,
    chart: { ...base.chart, type: 'bar' as const, stacked: true, height: height.value },
    series: parts.value.map(({ name, counts }) => ({ name, data: [...counts] })),
    colors: colours.value,
    plotOptions: { bar: { columnWidth: '70%' } },
    grid: { ...base.grid, padding: { top: marked.length > 0 && !isNarrow.value ? EVENT_ROWS * EVENT_ROW_PX : 0 } },
    xaxis: {
      categories: [...days],
      tickAmount: Math.min(isNarrow.value ? 3 : 10, days.length),
      labels: {
        rotate: 0,
        hideOverlappingLabels: true,
        formatter: (day: string) => (day ? shortDay(String(day)) : ''),
      },
      axisBorder: { color: colour('--ink') },
      tooltip: { enabled: false },
    },
    yaxis: {
      labels: { formatter: (count: number) => count.toLocaleString('en-GB') },
      min: 0,
      max: Math.max(4, Math.ceil(most.value / 4) * 4),
      tickAmount: 4,
      decimalsInFloat: 0,
    },
    tooltip: { ...tooltip(), shared: true, intersect: false },
    annotations: {
      // Above the bars, in rows, so that those of neighbouring days do not lie over each other.
      xaxis: marked.map(({ day, text, isEnd, row }) => ({
        x: day,
        borderColor: colour('--ink'),
        strokeDashArray: 3,
        label: {
          text: row === null ? '' : text,
          orientation: 'horizontal',
          textAnchor: isEnd ? 'end' : 'start',
          borderWidth: 0,
          offsetY: -6 - EVENT_ROW_PX * (row ?? 0),
          style: { color: colour('--ink'), background: 'transparent', fontSize: '11px' },
        },
      })),
    },
  }
})
const ways = [
  { value: 'form', label: 'By form' },
  { value: 'spot', label: 'By spot' },
  { value: 'source', label: 'By source' },
] as const
</script>

<template>
  <ChartSheet
    :order="1"
    title="Sign-ups by day"
    :words="`Sign-ups by day: at most ${most} on one day`"
    file="sign-ups-by-day"
    :options="options"
    :rows="rows"
    :columns="columns"
    :height="height"
  >
    <template #choices>
      <Select
        :model-value="by"
        class="by"
        label="Sign-ups in which parts"
        :options="ways"
        @update:model-value="by = $event as typeof by"
      />
    </template>
  </ChartSheet>
</template>

<style scoped>
.by {
  width: 120px;
}
</style>

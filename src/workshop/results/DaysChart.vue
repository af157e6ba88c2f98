<script setup lang="ts">
import { useMediaQuery } from '@vueuse/core'
import { computed, ref } from 'vue'
import Select from '../controls/Select.vue'
import { useWorkspace } from '../data'
import { baseOptions, colour, colourPlaces, othersColour, partColours, tooltip, shortDay } from '../charts'
import ChartSheet from '../charts/ChartSheet.vue'
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

const options = computed(() => {
  if (days.length === 0) return null
  const base = baseOptions()
  const markedDays = [...new Set(events.map(({ day }) => day))].filter((day) => days.includes(day))
  return {
    ...base,
    chart: { ...base.chart, type: 'bar' as const, stacked: true, height: height.value },
    series: parts.value.map(({ name, counts }) => ({ name, data: [...counts] })),
    colors: colours.value,
    plotOptions: { bar: { columnWidth: '70%' } },
    grid: { ...base.grid, padding: { top: markedDays.length > 0 && !isNarrow.value ? EVENT_ROWS * EVENT_ROW_PX : 0 } },
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
      xaxis: markedDays.map((day, at) => ({
        x: day,
        borderColor: colour('--ink'),
        strokeDashArray: 3,
        label: {
          text: isNarrow.value ? '' : shortOn(day),
          orientation: 'horizontal',
          textAnchor: days.indexOf(day) > days.length / 2 ? 'end' : 'start',
          borderWidth: 0,
          offsetY: -6 - EVENT_ROW_PX * (at % EVENT_ROWS),
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

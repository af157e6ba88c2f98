<script setup lang="ts">
import { computed, ref } from 'vue'
import Select from '../controls/Select.vue'
import { baseOptions, colour, partColours, tooltip, shortDay } from '../charts'
import ChartSheet from '../charts/ChartSheet.vue'

/** Sign-ups by day, in parts; with its table, and what happened on which day. */
const { days, partsBy, events } = defineProps<{
  days: readonly string[]
  /** The same sign-ups, taken apart in several ways. */
  partsBy: Readonly<Record<'form' | 'spot' | 'source', readonly { name: string; counts: readonly number[] }[]>>
  events: readonly { day: string; text: string }[]
}>()
const by = ref<'form' | 'spot' | 'source'>('form')
const parts = computed(() => partsBy[by.value])
const total = computed(() => days.map((_, at) => parts.value.reduce((all, { counts }) => all + (counts[at] ?? 0), 0)))
const most = computed(() => Math.max(0, ...total.value))
const eventsOn = (day: string) =>
  events
    .filter((one) => one.day === day)
    .map(({ text }) => text)
    .join('; ')
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
    chart: { ...base.chart, type: 'bar' as const, stacked: true, height: 240 },
    series: parts.value.map(({ name, counts }) => ({ name, data: [...counts] })),
    colors: partColours(),
    plotOptions: { bar: { columnWidth: '70%' } },
    xaxis: {
      categories: [...days],
      tickAmount: Math.min(10, days.length),
      labels: {
        rotate: 0,
        hideOverlappingLabels: true,
        formatter: (day: string) => (day ? shortDay(String(day)) : ''),
      },
      axisBorder: { color: colour('--ink') },
      tooltip: { enabled: false },
    },
    yaxis: { min: 0, max: Math.max(4, Math.ceil(most.value / 4) * 4), tickAmount: 4, decimalsInFloat: 0 },
    tooltip: { ...tooltip(), shared: true, intersect: false },
    annotations: {
      xaxis: markedDays.map((day) => ({ x: day, borderColor: colour('--ink'), strokeDashArray: 3 })),
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
    <ul v-if="events.length > 0" class="events small quiet">
      <li v-for="{ day, text } in events.slice(-6)" :key="day + text">{{ shortDay(day) }}: {{ text }}</li>
    </ul>
  </ChartSheet>
</template>

<style scoped>
.by {
  width: 120px;
}
.events {
  display: flex;
  flex-wrap: wrap;
  gap: 0 var(--gap-5);
  margin: 0;
  padding: 0;
  list-style: none;
}
</style>

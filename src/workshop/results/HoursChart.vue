<script setup lang="ts">
import { computed } from 'vue'
import { baseOptions, colour, tooltip } from '../charts'
import ChartSheet from '../charts/ChartSheet.vue'

/** When people sign up: by weekday, and by the hour of their site's clocks. */
const { hours } = defineProps<{
  /** Sign-ups by weekday, from Monday, and hour. */
  hours: readonly (readonly number[])[]
}>()
const weekdays = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']
const long = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday']
/** With fewer sign-ups, the fullest day is chance. Common practice, without a source. */
const LEAST = 50
/** So many hours in one square. */
const STEP_HOURS = 2
const hourNames = Array.from({ length: 24 / STEP_HOURS }, (_, at) => `${at * STEP_HOURS}–${(at + 1) * STEP_HOURS}`)
const squares = computed(() =>
  hours.map((day) =>
    hourNames.map((_, at) => day.slice(at * STEP_HOURS, (at + 1) * STEP_HOURS).reduce((all, count) => all + count, 0)),
  ),
)
const most = computed(() => Math.max(0, ...squares.value.flat()))
const words = computed(() => {
  if (most.value === 0) return 'Nobody signed up in this time.'
  const byDay = squares.value.map((day) => day.reduce((all, count) => all + count, 0))
  const day = byDay.indexOf(Math.max(...byDay))
  const byHour = hourNames.map((_, at) => squares.value.reduce((all, one) => all + one[at]!, 0))
  const hour = byHour.indexOf(Math.max(...byHour))
  const all = byDay.reduce((sum, count) => sum + count, 0)
  if (all < LEAST) return `Too early to tell: ${all} sign-up${all === 1 ? '' : 's'}.`
  return `Of ${all.toLocaleString('en-GB')} sign-ups, most were on a ${long[day]} (${byDay[day]}), and between ${hour * STEP_HOURS} and ${(hour + 1) * STEP_HOURS} o’clock (${byHour[hour]}).`
})
const options = computed(() => {
  if (most.value === 0) return null
  const base = baseOptions()
  return {
    ...base,
    chart: { ...base.chart, type: 'heatmap' as const, height: 240 },
    // The lowest row is drawn first.
    series: weekdays
      .map((name, day) => ({ name, data: hourNames.map((x, at) => ({ x, y: squares.value[day]![at]! })) }))
      .reverse(),
    colors: [colour('--moss')],
    stroke: { width: 2, colors: [colour('--sheet')] },
    legend: { show: false },
    tooltip: tooltip(),
    plotOptions: { heatmap: { radius: 2, enableShades: true, shadeIntensity: 0.9 } },
  }
})
const rows = computed(() =>
  long.map((day, at) => ({
    day,
    ...Object.fromEntries(squares.value[at]!.map((count, hour) => [`h${hour}`, count])),
    all: squares.value[at]!.reduce((sum, count) => sum + count, 0),
  })),
)
const columns = [
  { prop: 'day', label: 'Day' },
  ...hourNames.map((label, at) => ({ prop: `h${at}`, label })),
  { prop: 'all', label: 'All' },
]
</script>

<template>
  <ChartSheet
    :order="4"
    title="When people sign up"
    :words="words"
    file="hours"
    :options="options"
    :rows="rows"
    :columns="columns"
    :note="`${words} By the clocks of each site.`"
  />
</template>

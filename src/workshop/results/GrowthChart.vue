<script setup lang="ts">
import { computed } from 'vue'
import type { GrowthRow } from '#core/results'
import { baseOptions, colour, tooltip } from './chart'
import ChartSheet from './ChartSheet.vue'
import { shownDay } from './period'

/** Who came onto lists and who left, by day. */
const { days, growth, list } = defineProps<{
  days: readonly string[]
  growth: readonly GrowthRow[]
  /** The list of the one form that is looked at; null for all lists. */
  list: string | null
}>()
const rows = computed(() =>
  days.map((day) => {
    const own = growth.filter((row) => row.day === day)
    const sum = (part: 'came' | 'left') => own.reduce((all, row) => all + row[part], 0)
    return { day, shown: shownDay(day), came: sum('came'), left: sum('left') }
  }),
)
const sums = computed(() =>
  rows.value.reduce((all, { came, left }) => ({ came: all.came + came, left: all.left + left }), { came: 0, left: 0 }),
)
const words = computed(
  () =>
    `${sums.value.came.toLocaleString('en-GB')} came onto ${list === null ? 'a list, by a form' : `“${list}” as a whole, by this form, by others`} or by hand; ${sums.value.left.toLocaleString('en-GB')} left or were taken off.`,
)
const options = computed(() => {
  const base = baseOptions()
  return {
    ...base,
    chart: { ...base.chart, type: 'bar' as const, stacked: true, height: 240 },
    series: [
      { name: 'Came', data: rows.value.map(({ came }) => came) },
      { name: 'Left', data: rows.value.map(({ left }) => -left) },
    ],
    colors: [colour('--moss'), colour('--raspberry')],
    plotOptions: { bar: { columnWidth: '70%' } },
    xaxis: {
      categories: [...days],
      tickAmount: Math.min(6, days.length),
      labels: {
        rotate: 0,
        hideOverlappingLabels: true,
        formatter: (day: string) => (day ? shownDay(String(day)) : ''),
      },
      tooltip: { enabled: false },
    },
    yaxis: { labels: { formatter: (count: number) => String(Math.abs(Math.round(count))) } },
    tooltip: { ...tooltip(), shared: true, intersect: false },
  }
})
const columns = [
  { prop: 'shown', label: 'Day' },
  { prop: 'came', label: 'Came', isNumber: true },
  { prop: 'left', label: 'Left', isNumber: true },
]
</script>

<template>
  <ChartSheet
    :order="3"
    :title="list === null ? 'How lists grew' : `How “${list}” grew, by whatever way`"
    :words="words"
    file="list-growth"
    :options="options"
    :rows="rows.toReversed()"
    :columns="columns"
    :note="words"
  />
</template>

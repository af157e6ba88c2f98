<script setup lang="ts">
import { computed } from 'vue'
import { growthSpans, type GrowthRow, isByMonth } from '#core/results'
import { baseOptions, colour, tooltip } from './chart'
import ChartSheet from './ChartSheet.vue'
import { shortDay, shortMonth, shownPeriod } from './days'

/** Who came onto lists and who left, by day or month; or, of one list from its beginning, how many they are. */
const {
  days,
  growth,
  title,
  onto,
  order = 0,
  hasTotal = false,
  height = 240,
  marks = [],
} = defineProps<{
  days: readonly string[]
  growth: readonly GrowthRow[]
  title: string
  /** Whereto those came: “a list, by a form or by hand”. */
  onto: string
  /** Its place in a page that is saved. */
  order?: number
  /** Whether the rows go back to the beginning, so that they add up to everybody. */
  hasTotal?: boolean
  height?: number
  /** What happened on a day, in a word or two. */
  marks?: readonly { day: string; short: string }[]
}>()
const byMonth = computed(() => isByMonth(days))
const shownSpan = (span: string) => (byMonth.value ? shortMonth(span) : shortDay(span))
const rows = computed(() => growthSpans(growth, days).map((row) => ({ ...row, shown: shownSpan(row.span) })))
const words = computed(() => {
  const sum = (part: 'came' | 'brought' | 'left') =>
    rows.value.reduce((all, row) => all + row[part], 0).toLocaleString('en-GB')
  const total = hasTotal ? `${(rows.value.at(-1)?.total ?? 0).toLocaleString('en-GB')} are on it: ` : ''
  const brought = sum('brought')
  const how = brought === '0' ? '' : `, ${brought} of them by a file or by hand`
  return `${total}${sum('came')} came onto ${onto}${how}; ${sum('left')} left or were taken off.`
})
const options = computed(() => {
  const base = baseOptions()
  const data = (part: 'brought' | 'left' | 'total', sign = 1) => rows.value.map((row) => sign * row[part])
  const { shape, series, colors } = hasTotal
    ? { shape: 'area' as const, series: [{ name: 'On the list', data: data('total') }], colors: [colour('--moss')] }
    : {
        shape: 'bar' as const,
        series: [
          { name: 'Came by forms', data: rows.value.map(({ came, brought }) => came - brought) },
          { name: 'Brought in', data: data('brought') },
          { name: 'Left', data: data('left', -1) },
        ],
        colors: [colour('--part-1'), colour('--part-2'), colour('--part-4')],
      }
  return {
    ...base,
    chart: { ...base.chart, type: shape, stacked: !hasTotal, height },
    ...{ series, colors },
    legend: { ...base.legend, show: !hasTotal },
    stroke: { width: hasTotal ? 2 : 0, curve: 'straight' as const },
    fill: hasTotal ? { type: 'solid', opacity: 0.15 } : {},
    plotOptions: { bar: { columnWidth: '70%' } },
    xaxis: {
      categories: rows.value.map(({ span }) => span),
      tickAmount: Math.max(1, Math.min(7, rows.value.length - 1)),
      labels: {
        rotate: 0,
        hideOverlappingLabels: true,
        formatter: (span: string) => (span ? shownSpan(String(span)) : ''),
      },
      tooltip: { enabled: false },
    },
    yaxis: {
      ...(hasTotal && { min: 0, forceNiceScale: true, tickAmount: 3 }),
      // As wide in each, so that two stand over one axis of days.
      labels: { minWidth: 40, formatter: (count: number) => Math.abs(Math.round(count)).toLocaleString('en-GB') },
    },
    tooltip: { ...tooltip(), shared: true, intersect: false },
    annotations: {
      xaxis: marks
        .map(({ day, short }) => ({ span: byMonth.value ? day.slice(0, 7) : day, short }))
        .filter(({ span }) => rows.value.some((row) => row.span === span))
        .map(({ span, short }) => ({
          x: span,
          borderColor: colour('--ink'),
          strokeDashArray: 3,
          label: {
            text: short,
            orientation: 'horizontal',
            textAnchor: span > (rows.value[Math.floor(rows.value.length / 2)]?.span ?? '') ? 'end' : 'start',
            borderWidth: 0,
            style: { color: colour('--ink'), background: 'transparent', fontSize: '11px' },
          },
        })),
    },
  }
})
const columns = computed(() => [
  { prop: 'shown', label: byMonth.value ? 'Month' : 'Day' },
  { prop: 'came', label: 'Came', isNumber: true },
  { prop: 'brought', label: 'Of these, brought in', isNumber: true },
  { prop: 'left', label: 'Left', isNumber: true },
  ...(hasTotal ? [{ prop: 'total', label: 'On the list', isNumber: true }] : []),
])
</script>

<template>
  <ChartSheet
    :order="order"
    :title="title"
    :words="words"
    file="list-growth"
    :options="options"
    :rows="rows.toReversed()"
    :columns="columns"
    :note="words"
    :period="shownPeriod(days[0]!, days.at(-1)!)"
    :height="height"
  />
</template>

<script setup lang="ts">
import type ApexCharts from 'apexcharts'
import { ElButton, ElTable, ElTableColumn } from 'element-plus'
import { computed, nextTick, onBeforeUnmount, ref, shallowRef, useTemplateRef, watch } from 'vue'
import type { List } from '#core/list'
import { type GrowthDay, useMembers } from './members'

/** How a list grew and who left, month by month or, of a young list, day by day; with its table. */
const { list } = defineProps<{ list: List }>()
const members = useMembers()
const days = shallowRef<readonly GrowthDay[]>([])
const isTable = ref(false)
const place = useTemplateRef('place')
/** Of more days, months are shown. */
const MOST_DAYS = 62

let asked = 0
watch(
  [() => list.id, () => members.changes],
  async () => {
    const mine = (asked += 1)
    const all = await members.ask('growth', list.id)
    if (mine === asked) days.value = all
  },
  { immediate: true },
)

interface Span {
  label: string
  joined: number
  gone: number
  total: number
}
const isMonthly = computed(() => {
  const [first, last] = [days.value[0], days.value.at(-1)]
  if (first === undefined || last === undefined) return false
  return Date.parse(last.day) - Date.parse(first.day) > MOST_DAYS * 86_400_000
})
/** Every day or month from the first to the last, so that quiet ones are seen. */
const spans = computed((): Span[] => {
  const [first, last] = [days.value[0], days.value.at(-1)]
  if (first === undefined || last === undefined) return []
  const keyOf = (day: string) => (isMonthly.value ? day.slice(0, 7) : day)
  const sums = new Map<string, { joined: number; gone: number }>()
  for (let at = new Date(first.day); at.toISOString().slice(0, 10) <= last.day; at.setUTCDate(at.getUTCDate() + 1))
    sums.set(keyOf(at.toISOString().slice(0, 10)), { joined: 0, gone: 0 })
  for (const { day, joined, gone } of days.value) {
    const sum = sums.get(keyOf(day))!
    sum.joined += joined
    sum.gone += gone
  }
  let total = 0
  return [...sums].map(([label, { joined, gone }]) => ({ label, joined, gone, total: (total += joined - gone) }))
})

let chart: ApexCharts | null = null
/** A colour of the workshop's, as the chart can take it. */
const colour = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(name).trim()

async function draw(): Promise<void> {
  await nextTick()
  if (isTable.value || spans.value.length === 0 || place.value === null) {
    chart?.destroy()
    chart = null
    return
  }
  // Loaded here alone: it is as large as the rest of the page.
  const { default: Chart } = await import('apexcharts')
  if (place.value === null) return
  const series = [
    { name: 'On the list', type: 'line', data: spans.value.map(({ total }) => total) },
    { name: 'Came', type: 'column', data: spans.value.map(({ joined }) => joined) },
    { name: 'Went', type: 'column', data: spans.value.map(({ gone }) => -gone) },
  ]
  const axis = { labels: { style: { colors: colour('--quiet') } } }
  const options = {
    series,
    chart: {
      type: 'line' as const,
      height: 150,
      fontFamily: 'inherit',
      background: 'transparent',
      foreColor: colour('--quiet'),
      toolbar: { show: false },
      zoom: { enabled: false },
      animations: { enabled: false },
    },
    colors: [colour('--ink'), colour('--moss'), colour('--raspberry')],
    stroke: { width: [2, 0, 0], curve: 'straight' as const },
    plotOptions: { bar: { columnWidth: '60%' } },
    dataLabels: { enabled: false },
    grid: { borderColor: colour('--hairline') },
    legend: { show: false },
    xaxis: {
      ...axis,
      categories: spans.value.map(({ label }) => label),
      tickAmount: Math.min(8, spans.value.length),
      labels: { ...axis.labels, rotate: 0, hideOverlappingLabels: true },
      tooltip: { enabled: false },
    },
    yaxis: [
      { ...axis, seriesName: 'On the list', forceNiceScale: true, decimalsInFloat: 0 },
      { ...axis, seriesName: 'Came', opposite: true, forceNiceScale: true, decimalsInFloat: 0 },
      { ...axis, seriesName: 'Came', show: false, forceNiceScale: true },
    ],
    tooltip: { shared: true, intersect: false, y: { formatter: (value: number) => String(Math.abs(value)) } },
  }
  if (chart === null) {
    chart = new Chart(place.value, options)
    await chart.render()
  } else await chart.updateOptions(options, false, false)
}
watch([spans, isTable], () => void draw(), { immediate: true, flush: 'post' })
onBeforeUnmount(() => chart?.destroy())
</script>

<template>
  <section v-if="spans.length > 1" class="sheet growth" aria-labelledby="growth-title">
    <div class="head">
      <h2 id="growth-title">How it grew</h2>
      <ElButton text :aria-pressed="isTable" @click="isTable = !isTable">{{
        isTable ? 'As a chart' : 'As a table'
      }}</ElButton>
    </div>
    <ElTable v-if="isTable" :data="[...spans].reverse()" max-height="240" row-key="label">
      <ElTableColumn prop="label" :label="isMonthly ? 'Month' : 'Day'" />
      <ElTableColumn prop="joined" label="Came" align="right" />
      <ElTableColumn prop="gone" label="Went" align="right" />
      <ElTableColumn prop="total" label="On the list" align="right" />
    </ElTable>
    <template v-else>
      <ul class="legend small" aria-hidden="true">
        <li class="total">On the list</li>
        <li class="came">Came (right scale)</li>
        <li class="went">Went</li>
      </ul>
      <div
        ref="place"
        class="chart"
        role="img"
        :aria-label="`How “${list.name}” grew: ${spans.at(-1)!.total} on the list`"
      />
    </template>
  </section>
</template>

<style scoped>
.growth {
  padding: var(--gap-3) var(--gap-4);
}
.head {
  display: flex;
  justify-content: space-between;
  align-items: center;
}
.legend {
  display: flex;
  gap: var(--gap-4);
  margin: 0;
  padding: 0;
  list-style: none;
}
.legend li::before {
  content: '';
  display: inline-block;
  width: 10px;
  height: 10px;
  margin-inline-end: var(--gap-1);
  background: var(--ink);
}
.legend .total::before {
  height: 2px;
  margin-block-end: 3px;
}
.legend .came::before {
  background: var(--moss);
}
.legend .went::before {
  background: var(--raspberry);
}
.chart {
  min-height: 150px;
}
</style>

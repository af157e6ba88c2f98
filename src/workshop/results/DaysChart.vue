<script setup lang="ts">
import { Download } from '@lucide/vue'
import { ElButton, ElTable, ElTableColumn } from 'element-plus'
import { computed, ref, useTemplateRef } from 'vue'
import { handToDownloads } from '../controls/downloads'
import { baseOptions, colour, partColours, useChart } from './chart'
import { shownDay } from './period'

/** Sign-ups by day, in parts; with its table, and what happened on which day. */
const { days, parts, events } = defineProps<{
  days: readonly string[]
  parts: readonly { name: string; counts: readonly number[] }[]
  events: readonly { day: string; text: string }[]
}>()
const place = useTemplateRef<HTMLElement>('place')
const isTable = ref(false)
const total = computed(() => days.map((_, at) => parts.reduce((all, { counts }) => all + (counts[at] ?? 0), 0)))
const most = computed(() => Math.max(0, ...total.value))
const rows = computed(() =>
  days
    .map((day, at) => ({
      day,
      shown: shownDay(day),
      total: total.value[at],
      events: events
        .filter((one) => one.day === day)
        .map(({ text }) => text)
        .join('; '),
    }))
    .reverse(),
)

const chart = useChart(place, () => {
  if (isTable.value || days.length === 0) return null
  const base = baseOptions()
  const markedDays = [...new Set(events.map(({ day }) => day))].filter((day) => days.includes(day))
  return {
    ...base,
    chart: { ...base.chart, type: 'bar', stacked: true, height: 240 },
    series: parts.map(({ name, counts }) => ({ name, data: [...counts] })),
    colors: partColours(),
    plotOptions: { bar: { columnWidth: '70%' } },
    xaxis: {
      categories: [...days],
      tickAmount: Math.min(10, days.length),
      labels: {
        rotate: 0,
        hideOverlappingLabels: true,
        formatter: (day: string) => (day ? shownDay(String(day)) : ''),
      },
      axisBorder: { color: colour('--ink') },
      tooltip: { enabled: false },
    },
    yaxis: { min: 0, max: Math.max(4, Math.ceil(most.value / 4) * 4), tickAmount: 4, decimalsInFloat: 0 },
    tooltip: {
      shared: true,
      intersect: false,
      theme: document.documentElement.classList.contains('dark') ? 'dark' : 'light',
    },
    annotations: {
      xaxis: markedDays.map((day) => ({ x: day, borderColor: colour('--ink'), strokeDashArray: 3 })),
    },
  }
})

async function save(kind: 'png' | 'svg'): Promise<void> {
  const blob = await chart.saved(kind)
  if (blob !== null) handToDownloads({ blob, name: `sign-ups-by-day.${kind}` })
}
</script>

<template>
  <section class="sheet chart" aria-labelledby="days-title">
    <div class="head">
      <h2 id="days-title">Sign-ups by day</h2>
      <span class="row">
        <template v-if="!isTable">
          <ElButton text size="small" @click="save('png')"><Download :size="14" /><span>PNG</span></ElButton>
          <ElButton text size="small" @click="save('svg')"><Download :size="14" /><span>SVG</span></ElButton>
        </template>
        <ElButton text size="small" :aria-pressed="isTable" @click="isTable = !isTable">{{
          isTable ? 'As a chart' : 'As a table'
        }}</ElButton>
      </span>
    </div>
    <ElTable v-if="isTable" :data="rows" max-height="320" row-key="day">
      <ElTableColumn prop="shown" label="Day" width="120" />
      <ElTableColumn prop="total" label="Sign-ups" align="right" width="120" />
      <ElTableColumn prop="events" label="What happened" />
    </ElTable>
    <template v-else>
      <div ref="place" class="place" role="img" :aria-label="`Sign-ups by day: at most ${most} on one`" />
      <ul v-if="events.length > 0" class="events small quiet">
        <li v-for="{ day, text } in events.slice(-6)" :key="day + text">{{ shownDay(day) }}: {{ text }}</li>
      </ul>
    </template>
  </section>
</template>

<style scoped>
.chart {
  padding: var(--gap-3) var(--gap-4);
}
.head {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  align-items: center;
}
h2 {
  margin: 0;
}
.place {
  min-height: 255px;
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

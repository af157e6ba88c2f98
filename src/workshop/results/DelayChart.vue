<script setup lang="ts">
import { computed } from 'vue'
import type { Delays } from '#core/results'
import { baseOptions, colour, tooltip } from '../charts'
import ChartSheet from '../charts/ChartSheet.vue'

/** How long people take to confirm. */
const { delays } = defineProps<{ delays: Delays }>()
const people = (count: number) => `${count.toLocaleString('en-GB')} ${count === 1 ? 'person' : 'people'}`
const words = computed(() => {
  const { count, buckets } = delays
  if (count === 0) return 'Nobody confirmed by mail in this time.'
  const most = buckets.reduce((best, one) => (one.count > best.count ? one : best))
  return `${people(count)} confirmed by mail; most often it took ${most.label}.`
})
const options = computed(() => {
  if (delays.count === 0) return null
  const base = baseOptions()
  return {
    ...base,
    chart: { ...base.chart, type: 'bar' as const, height: 240 },
    series: [{ name: 'Confirmed', data: delays.buckets.map(({ count }) => count) }],
    colors: [colour('--moss')],
    plotOptions: { bar: { horizontal: true, barHeight: '60%' } },
    xaxis: {
      categories: delays.buckets.map(({ label }) => label),
      labels: { formatter: (count: string) => String(Math.round(Number(count))) },
    },
    tooltip: tooltip(),
  }
})
const columns = [
  { prop: 'label', label: 'It took' },
  { prop: 'count', label: 'People', isNumber: true },
]
</script>

<template>
  <ChartSheet
    :order="5"
    title="How long confirming takes"
    :words="words"
    file="confirmation-delay"
    :options="options"
    :rows="delays.buckets"
    :columns="columns"
    :note="words"
  />
</template>

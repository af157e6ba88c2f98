<script setup lang="ts">
import { Download } from '@lucide/vue'
import { ElButton, ElTable, ElTableColumn } from 'element-plus'
import { computed, ref, useId, useTemplateRef } from 'vue'
import { handToDownloads } from '../controls'
import { type ChartOptions, useChart } from './chart'
import { asDataAddress, usePeriod, useReportPart } from './report'
import { stacked } from '../controls'

/** A chart under its title, with what it says in words; its table in its place by one press; saved as a picture. */
const {
  title,
  words,
  note = '',
  file,
  options,
  rows,
  columns,
  order,
  height = 240,
  period = '',
} = defineProps<{
  /** Its place among the parts of a saved page. */
  order: number
  title: string
  /** What it shows, for whoever does not see it. */
  words: string
  /** Stands below it, where the words are for all to read. */
  note?: string
  /** Name of the saved picture. */
  file: string
  options: ChartOptions | null
  rows: readonly object[]
  columns: readonly { prop: string; label: string; isNumber?: boolean }[]
  /** In pixels. */
  height?: number
  /** From when to when, as people write it; where not said, that of the page. */
  period?: string
}>()
const id = useId()
const around = usePeriod()
const place = useTemplateRef<HTMLElement>('place')
const isTable = ref(false)
const chart = useChart(place, () => (isTable.value ? null : options))

useReportPart(order, async () => ({
  title,
  words,
  // As PNG: the same wherever the page is opened.
  picture: await asDataAddress(
    isTable.value || options === null ? null : await chart.saved('png', title, source.value),
  ),
  columns,
  rows: rows.map((row) => columns.map(({ prop }) => String((row as Record<string, unknown>)[prop] ?? ''))),
  isOpen: isTable.value,
}))

/** Below the title of a saved picture: from when to when, and from where. */
const source = computed(() => [period || around(), 'counted by Ask Box'].filter(Boolean).join(' · '))
async function save(kind: 'png' | 'svg'): Promise<void> {
  const blob = await chart.saved(kind, title, source.value)
  if (blob !== null) handToDownloads({ blob, name: `${file}.${kind}` })
}
</script>

<template>
  <section class="sheet chart" :aria-labelledby="id">
    <div class="head">
      <h2 :id="id">{{ title }}</h2>
      <span class="row no-print">
        <template v-if="!isTable">
          <ElButton text size="small" :aria-label="`PNG: ${title}`" @click="save('png')"
            ><Download :size="14" /><span>PNG</span></ElButton
          >
          <ElButton text size="small" :aria-label="`SVG: ${title}`" @click="save('svg')"
            ><Download :size="14" /><span>SVG</span></ElButton
          >
        </template>
        <slot name="choices" />
        <ElButton
          text
          size="small"
          :aria-label="`${isTable ? 'As a chart' : 'As a table'}: ${title}`"
          @click="isTable = !isTable"
          >{{ isTable ? 'As a chart' : 'As a table' }}</ElButton
        >
      </span>
    </div>
    <ElTable v-bind="stacked" v-if="isTable" :data="[...rows]" max-height="320" empty-text="Nothing in this time.">
      <ElTableColumn
        v-for="{ prop, label, isNumber } in columns"
        :key="prop"
        :prop="prop"
        :label="label"
        :align="isNumber ? 'right' : 'left'"
        :width="isNumber ? 120 : undefined"
      />
    </ElTable>
    <template v-else>
      <div
        v-if="options"
        ref="place"
        class="place"
        :style="{ minHeight: `${height + 15}px` }"
        role="img"
        :aria-label="words"
      />
      <p v-if="note" class="quiet small">{{ note }}</p>
      <slot />
    </template>
  </section>
</template>

<style scoped>
.chart {
  padding: var(--gap-3) var(--gap-4);
  min-width: 0;
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
p {
  margin: 0;
}
@media print {
  .no-print {
    display: none !important;
  }
}
</style>

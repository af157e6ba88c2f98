<script setup lang="ts">
import { Download } from '@lucide/vue'
import { ElButton, ElTable, ElTableColumn } from 'element-plus'
import { computed, ref } from 'vue'
import { type List, valueOf } from '#core/list'
import { handToDownloads } from '../../controls'
import AddressText from '../../controls/AddressText.vue'
import Views from '../../controls/Views.vue'
import { statusNames } from '../status'
import type { DryRun, ShownRow, ShownVerdict } from './import-in-hand'
import { stacked, useGradualRows } from '../../controls'

/** What a file would do, each kind of row in a table of its own. */
const { dry, list, fileName } = defineProps<{ dry: DryRun; list: List; fileName: string }>()

const names: Record<ShownVerdict, string> = {
  new: 'New',
  changed: 'Changed',
  off: 'Off the list by it',
  same: 'The same',
  mistyped: 'Probably mistyped',
  invalid: 'Refused',
  twice: 'Twice in the file',
  gone: 'Left or removed before',
  erased: 'Erased before',
  'not-taken': 'Not taken, as it says',
}
const order: ShownVerdict[] = [
  ...(['new', 'mistyped', 'changed', 'off', 'same', 'invalid', 'twice', 'gone', 'erased', 'not-taken'] as const),
]
const views = computed(() =>
  order
    .filter((verdict) => dry.counts[verdict] > 0)
    .map((value) => ({ value, label: `${names[value]} · ${dry.counts[value].toLocaleString('en')}` })),
)
const shown = ref<ShownVerdict>(views.value[0]?.value ?? 'new')

/** What would be otherwise than before; of somebody new, what is kept. */
function wordsFor({ before, person, words }: ShownRow): string {
  if (person === null) return words
  const keys = new Set([...Object.keys(before?.values ?? {}), ...Object.keys(person.values)])
  const values = [...keys].flatMap((key) => {
    const [was, is] = [before === null ? '' : valueOf(before, key), valueOf(person, key)]
    if (was === is) return []
    const label = list.columns.find((column) => column.key === key)?.label ?? key
    return [`${label}: ${before === null || was === '' ? is : `${was} → ${is}`}`]
  })
  const tags = person.tags.filter((tag) => !(before?.tags ?? []).includes(tag))
  const status =
    before !== null && before.status !== person.status
      ? [`${statusNames[before.status]} → ${statusNames[person.status]}`]
      : []
  return [words, ...status, ...values, ...(tags.length > 0 ? [`Tags: ${tags.join(', ')}`] : [])]
    .filter(Boolean)
    .join(' · ')
}
/** What somebody new comes in as, and since when; of others that stays. */
const asOf = ({ person, before }: ShownRow) =>
  person === null || before !== null
    ? { status: '', since: '' }
    : {
        status: statusNames[person.status],
        since: person.joinedAt === null ? 'today' : dayWords.format(new Date(person.joinedAt)),
      }
const dayWords = new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium', timeZone: 'UTC' })
const rows = computed(() => dry.shown[shown.value].map((row) => ({ ...row, ...asOf(row), told: wordsFor(row) })))
const drawn = useGradualRows(() => rows.value)
const hasNew = computed(() => shown.value === 'new' || shown.value === 'mistyped')

function saveRefused(): void {
  if (dry.refused !== null)
    handToDownloads({ blob: dry.refused, name: `${fileName.replace(/\.[a-z]+$/i, '')}, not taken.csv` })
}
</script>

<template>
  <section aria-labelledby="dry-title">
    <h2 id="dry-title">What it would do</h2>
    <p v-if="dry.problem" class="problem" role="alert">
      {{ dry.problem.message }} What stands before it can be brought in.
    </p>
    <Views v-model="shown" label="Kinds of rows" :views="views" />
    <ElTable v-bind="stacked" :data="drawn" max-height="360" row-key="line">
      <ElTableColumn prop="line" label="Line" width="90" />
      <ElTableColumn label="Address" width="280" show-overflow-tooltip>
        <template #default="{ row }"><AddressText :address="row.email" /></template>
      </ElTableColumn>
      <ElTableColumn v-if="hasNew" prop="status" label="Comes in as" width="120" />
      <ElTableColumn v-if="hasNew" prop="since" label="Joined" width="120" />
      <ElTableColumn prop="told" label="What of it" show-overflow-tooltip />
    </ElTable>
    <p v-if="dry.counts[shown] > rows.length" class="quiet small">
      The first {{ rows.length }} of {{ dry.counts[shown].toLocaleString('en') }} are shown.
    </p>
    <ElButton v-if="dry.refused" @click="saveRefused"
      ><Download :size="16" /><span>Save the rows that are not taken, with why</span></ElButton
    >
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: var(--gap-3);
  justify-items: start;
}
section > .el-table,
section > .el-tabs {
  width: 100%;
}
</style>

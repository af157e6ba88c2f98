<script setup lang="ts">
import { ElButton, ElInputNumber } from 'element-plus'
import { computed } from 'vue'
import { columnKey } from '#core/form'
import { encodingNames, type FileEncoding, formatNames, fileFormats, type Separator, type Target } from '#core/import'
import type { List } from '#core/list'
import Labelled from '../../controls/Labelled.vue'
import Select from '../../controls/Select.vue'
import { useWorkspace } from '../../data'
import { useNotices } from '../../notices'
import ColumnWords from './ColumnWords.vue'
import type { ImportInHand } from './import-in-hand'

/** How the file is written, and what each of its columns is for. */
const { list, inHand } = defineProps<{ list: List; inHand: ImportInHand }>()
const workspace = useWorkspace()
const notices = useNotices()
const look = computed(() => inHand.look.value!)

const NEW = 'a new column'
const separatorNames: Record<Separator, string> = { ',': 'comma', ';': 'semicolon', '\t': 'tab', '|': 'upright line' }
const choices = computed(() => [
  { value: 'nothing', label: 'leave it out' },
  { value: 'email', label: 'the address' },
  ...list.columns.map(({ key, label }) => ({ value: `column ${key}`, label })),
  { value: 'name', label: 'whole name, taken apart' },
  { value: 'tags', label: 'tags' },
  { value: 'status', label: 'status' },
  { value: 'joined', label: 'joined at' },
  { value: NEW, label: 'make a column of it' },
])
const rows = computed(() =>
  look.value.columns.map((name, at) => ({
    name,
    target: inHand.targets.value[at] ?? { to: 'nothing' as const },
    tally: look.value.tallies[at]!,
  })),
)
const valueOf = (target: Target) => (target.to === 'column' ? `column ${target.key}` : target.to)
/** Columns with something in them that nothing is made of. */
const left = computed(() =>
  rows.value.flatMap(({ target, tally }, at) => (target.to === 'nothing' && tally.filled > 0 ? [at] : [])),
)

async function choose(at: number, value: string): Promise<void> {
  inHand.match(at, await targetOf(at, value))
}

async function targetOf(at: number, value: string): Promise<Target> {
  if (value.startsWith('column ')) return { to: 'column', key: value.slice('column '.length) }
  switch (value) {
    case NEW: {
      const [key] = await makeColumns([look.value.columns[at]!])
      return { to: 'column', key: key! }
    }
    case 'name':
      await makeColumns(
        ['First name', 'Last name'].filter((label) => !list.columns.some(({ key }) => key === columnKey(label, []))),
      )
      return { to: 'name', first: 'first-name', last: 'last-name' }
    case 'tags':
      return { to: 'tags', separator: ',', leftOut: [] }
    case 'status':
      return { to: 'status', means: {} }
    case 'joined':
      return { to: 'joined', read: {} }
    default:
      return { to: value as 'email' | 'nothing' }
  }
}

/** Columns of the list for what it lacks; their keys. */
async function makeColumns(labels: readonly string[]): Promise<string[]> {
  if (labels.length === 0) return []
  const columns = [...list.columns]
  const added = labels.map((text) => {
    const label = text.slice(0, 200)
    const key = columnKey(
      label,
      columns.map((column) => column.key),
    )
    columns.push({ key, label })
    return { key, label }
  })
  await workspace.changeList(list.id, { columns })
  notices.done(
    added.length === 1
      ? `The list has a column “${added[0]!.label}” now.`
      : `The list has ${added.length} more columns now.`,
  )
  return added.map(({ key }) => key)
}

async function makeAll(): Promise<void> {
  const wanted = left.value
  const keys = await makeColumns(wanted.map((at) => look.value.columns[at]!))
  for (const [index, at] of wanted.entries()) inHand.match(at, { to: 'column', key: keys[index]! })
}
</script>

<template>
  <section aria-labelledby="match-title">
    <h2 id="match-title">What is in it</h2>
    <div class="written">
      <Labelled label="Read as">
        <Select
          :model-value="look.reading.format"
          :options="fileFormats.map((value) => ({ value, label: formatNames[value] }))"
          @update:model-value="$event && inHand.lookAgain({ format: $event })"
        />
      </Labelled>
      <Labelled label="Encoding">
        <Select
          :model-value="look.reading.encoding"
          :options="Object.entries(encodingNames).map(([value, label]) => ({ value: value as FileEncoding, label }))"
          @update:model-value="$event && inHand.lookAgain({ encoding: $event })"
        />
      </Labelled>
      <template v-if="look.reading.format === 'csv'">
        <Labelled label="Between cells stands a">
          <Select
            :model-value="look.reading.separator"
            :options="Object.entries(separatorNames).map(([value, label]) => ({ value: value as Separator, label }))"
            @update:model-value="$event && inHand.lookAgain({ separator: $event })"
          />
        </Labelled>
        <Labelled label="Rows above the table">
          <ElInputNumber
            :model-value="look.reading.head.skip"
            :min="0"
            :max="50"
            aria-label="Rows above the table"
            @change="inHand.lookAgain({ head: { ...look.reading.head, skip: $event ?? 0 } })"
          />
        </Labelled>
        <Labelled label="Its first row">
          <Select
            :model-value="look.reading.head.hasHead ? 'names' : 'person'"
            :options="[
              { value: 'names', label: 'names the columns' },
              { value: 'person', label: 'is a person already' },
            ]"
            @update:model-value="inHand.lookAgain({ head: { ...look.reading.head, hasHead: $event === 'names' } })"
          />
        </Labelled>
      </template>
    </div>
    <div class="columns" role="list">
      <div v-for="({ name, target, tally }, at) in rows" :key="at" class="column" role="listitem">
        <strong>{{ name }}</strong>
        <span class="samples quiet small">{{ tally.filled === 0 ? 'nothing in it' : tally.samples.join(' · ') }}</span>
        <Select
          :model-value="valueOf(target)"
          :label="`What the column ${name} is for`"
          :options="choices"
          @update:model-value="choose(at, $event)"
        />
        <ColumnWords
          class="words"
          :name="name"
          :target="target"
          :tally="tally"
          :columns="list.columns"
          @decide="inHand.decide(at, $event)"
        />
      </div>
    </div>
    <ElButton v-if="left.length > 0" class="all" @click="makeAll">{{
      left.length === 1
        ? `Make a column of “${rows[left[0]!]!.name}” too`
        : `Make a column of each of the ${left.length} that are left out`
    }}</ElButton>
    <p v-if="!inHand.hasAddress.value" class="problem" role="alert">
      None of the columns is the address. Choose the one that is.
    </p>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: var(--gap-3);
}
.written {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(190px, 1fr));
  gap: var(--gap-4);
}
.written :deep(.el-form-item) {
  margin: 0;
}
.columns {
  display: grid;
  grid-template-columns: minmax(120px, 200px) minmax(0, 460px) 240px;
  gap: var(--gap-2) var(--gap-4);
}
.column {
  display: grid;
  grid-template-columns: subgrid;
  grid-column: 1 / -1;
  align-items: center;
}
.words {
  grid-column: 1 / -1;
}
.all {
  justify-self: start;
}
@media (width < 720px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
}
.column strong,
.samples {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>

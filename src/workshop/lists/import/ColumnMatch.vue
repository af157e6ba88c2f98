<script setup lang="ts">
import { computed } from 'vue'
import { columnKey } from '#core/form'
import { encodingNames, type FileEncoding, formatNames, fileFormats, type Separator, type Target } from '#core/import'
import type { List } from '#core/list'
import Labelled from '../../controls/Labelled.vue'
import Select from '../../controls/Select.vue'
import { useWorkspace } from '../../data'
import { useNotices } from '../../notices'
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
    samples: look.value.rows
      .map((row) => row.cells[at]?.trim() ?? '')
      .filter((cell) => cell !== '')
      .slice(0, 3),
  })),
)
const valueOf = (target: Target) => (target.to === 'column' ? `column ${target.key}` : target.to)

async function choose(at: number, value: string): Promise<void> {
  inHand.match(at, await targetOf(at, value))
}

async function targetOf(at: number, value: string): Promise<Target> {
  if (value.startsWith('column ')) return { to: 'column', key: value.slice('column '.length) }
  if (value === NEW) {
    const label = look.value.columns[at]!.slice(0, 200)
    const key = columnKey(
      label,
      list.columns.map((column) => column.key),
    )
    const before = list.columns
    await workspace.changeList(list.id, { columns: [...before, { key, label }] })
    notices.done(`The list has a column “${label}” now.`)
    return { to: 'column', key }
  }
  if (value === 'name') {
    const has = (key: string) => list.columns.some((column) => column.key === key)
    return {
      to: 'name',
      first: has('first-name') ? 'first-name' : (list.columns[0]?.key ?? 'first-name'),
      last: has('last-name') ? 'last-name' : null,
    }
  }
  return { to: value as 'email' | 'tags' | 'status' | 'joined' | 'nothing' }
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
        <Labelled label="The first row">
          <Select
            :model-value="look.reading.hasHead ? 'names' : 'person'"
            :options="[
              { value: 'names', label: 'names the columns' },
              { value: 'person', label: 'is a person already' },
            ]"
            @update:model-value="inHand.lookAgain({ hasHead: $event === 'names' })"
          />
        </Labelled>
      </template>
    </div>
    <div class="columns" role="list">
      <div v-for="({ name, target, samples }, at) in rows" :key="at" class="column" role="listitem">
        <strong>{{ name }}</strong>
        <span class="samples quiet small">{{ samples.length === 0 ? 'nothing in it' : samples.join(' · ') }}</span>
        <Select
          :model-value="valueOf(target)"
          :label="`What the column ${name} is for`"
          :options="choices"
          @update:model-value="choose(at, $event)"
        />
      </div>
    </div>
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
  max-height: 420px;
  overflow: auto;
}
.column {
  display: grid;
  grid-template-columns: subgrid;
  grid-column: 1 / -1;
  align-items: center;
}
.column strong,
.samples {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>

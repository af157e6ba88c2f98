<script setup lang="ts">
import { ArrowDown, ArrowUp, Copy, Plus, Trash2 } from '@lucide/vue'
import { ElButton, ElCheckbox, ElInput, ElInputTag } from 'element-plus'
import { computed, ref } from 'vue'
import { columnKey } from '#core/form'
import { type Column, type ColumnKind, columnKinds, type List } from '#core/list'
import { vHint } from '../controls'
import Select from '../controls/Select.vue'
import TypedInput from '../controls/TypedInput.vue'
import { useWorkspace } from '../data'
import { useNotices } from '../notices'

/** The columns of a list, in the order in which its table and its files have them. */
const { list } = defineProps<{ list: List }>()
const workspace = useWorkspace()
const notices = useNotices()
const label = ref('')
const kindNames: Record<ColumnKind, string> = {
  text: 'Text',
  number: 'Number',
  date: 'Date',
  choice: 'One of some',
  'yes-no': 'Yes or no',
  country: 'Country',
  'web-address': 'Web address',
}
const kinds = columnKinds.map((value) => ({ value, label: kindNames[value] }))

const rows = computed(() =>
  list.columns.map((column) => ({
    column,
    forms: workspace.forms.filter(
      ({ id, list: feeds, draft }) =>
        feeds === list.id &&
        [draft, workspace.latestVersion(id)?.content].some((content) =>
          content?.fields.some((field) => field.kind !== 'email' && field.column === column.key),
        ),
    ),
  })),
)
const keep = (columns: readonly Column[]) => workspace.changeList(list.id, { columns: [...columns] })

async function add(): Promise<void> {
  const named = label.value.trim()
  if (named === '') return
  const key = columnKey(
    named,
    list.columns.map((column) => column.key),
  )
  label.value = ''
  await keep([...list.columns, { key, label: named }])
}
/** Parts that are undefined go. */
function change(at: number, changes: Partial<Column>): unknown {
  const changed = Object.fromEntries(
    Object.entries({ ...list.columns[at]!, ...changes }).filter(([, value]) => value !== undefined),
  ) as Column
  return keep(list.columns.with(at, changed))
}
const rename = (at: number, named: string) =>
  named.trim() !== '' && keep(list.columns.with(at, { ...list.columns[at]!, label: named.trim() }))

async function move(from: number, to: number): Promise<void> {
  const moved = list.columns[from]
  if (moved === undefined || to < 0 || to >= list.columns.length) return
  await keep(list.columns.toSpliced(from, 1).toSpliced(to, 0, moved))
}

/** What people have in it stays with them, and is shown again with a column of the same key. */
async function remove(at: number): Promise<void> {
  const before = list.columns
  const gone = before[at]!
  await keep(before.toSpliced(at, 1))
  notices.done(
    `The column “${gone.label}” is gone from the table and from files. What people have in it is kept with them.`,
    () => keep(before),
  )
}

async function copy(key: string): Promise<void> {
  try {
    await navigator.clipboard.writeText(key)
    notices.done(`“${key}” is copied.`)
  } catch {
    notices.problem('The browser did not allow copying.')
  }
}
</script>

<template>
  <section aria-labelledby="columns-title">
    <h2 id="columns-title">Columns</h2>
    <p class="quiet small">Besides the address, which every list has.</p>
    <ul>
      <li v-for="({ column, forms }, at) in rows" :key="column.key">
        <TypedInput
          :value="column.label"
          :maxlength="200"
          :aria-label="`Name of the column ${column.label}`"
          @change="rename(at, $event)"
        />
        <ElButton
          v-hint="'The key, by which files and programs know it; press to copy'"
          text
          class="key"
          :aria-label="`Copy the key ${column.key}`"
          @click="copy(column.key)"
          ><Copy :size="14" /><code>{{ column.key }}</code></ElButton
        >
        <Select
          :model-value="column.kind ?? 'text'"
          :label="`What the column ${column.label} holds`"
          :options="kinds"
          @update:model-value="change(at, { kind: $event === 'text' || $event === '' ? undefined : $event })"
        />
        <ElCheckbox
          :model-value="!column.isHidden"
          label="Shown"
          :aria-label="`Show ${column.label} in the table`"
          @change="change(at, { isHidden: $event ? undefined : true })"
        />
        <span class="quiet small">{{
          forms.length === 0 ? 'Filled by no form.' : `Filled by ${forms.map(({ name }) => `“${name}”`).join(', ')}.`
        }}</span>
        <span class="row">
          <ElButton text :disabled="at === 0" :aria-label="`Move ${column.label} up`" @click="move(at, at - 1)"
            ><ArrowUp :size="16"
          /></ElButton>
          <ElButton
            text
            :disabled="at === rows.length - 1"
            :aria-label="`Move ${column.label} down`"
            @click="move(at, at + 1)"
            ><ArrowDown :size="16"
          /></ElButton>
          <ElButton
            text
            :disabled="forms.length > 0"
            :aria-label="`Take the column ${column.label} away`"
            @click="remove(at)"
            ><Trash2 :size="16"
          /></ElButton>
        </span>
        <ElInputTag
          v-if="column.kind === 'choice'"
          class="choices"
          :model-value="column.choices ?? []"
          :max="200"
          :aria-label="`Choices of ${column.label}`"
          placeholder="Choices; Enter adds what is typed"
          @change="change(at, { choices: $event ?? [] })"
        />
      </li>
    </ul>
    <form novalidate @submit.prevent="add">
      <ElInput v-model="label" :maxlength="200" placeholder="Name of a new column" aria-label="Name of a new column" />
      <ElButton native-type="submit" :disabled="label.trim() === ''"><Plus :size="16" /><span>Add it</span></ElButton>
    </form>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: var(--gap-2);
}
h2 {
  font-size: var(--text-l);
}
p {
  margin: 0;
}
/* One grid for all rows, so that they stand under each other. */
ul {
  display: grid;
  grid-template-columns: minmax(160px, 300px) auto 150px auto minmax(0, 1fr) auto;
  gap: var(--gap-2) var(--gap-3);
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  grid-template-columns: subgrid;
  grid-column: 1 / -1;
  align-items: center;
}
.key {
  justify-content: start;
}
.key code {
  margin-inline-start: var(--gap-1);
  font-family: var(--mono);
  font-size: var(--text-s);
}
.choices {
  grid-column: 1 / span 3;
}
form {
  display: flex;
  gap: var(--gap-3);
  max-width: 420px;
}
@media (max-width: 700px) {
  ul {
    grid-template-columns: minmax(0, 1fr) auto;
  }
}
</style>

<script setup lang="ts">
import { ElButton, ElCheckbox, ElCheckboxGroup, ElDialog } from 'element-plus'
import { computed, ref } from 'vue'
import { factColumns, type PeopleFormat } from '#core/export'
import type { List } from '#core/list'
import { spotName } from '#core/spot'
import { now } from '../../clock'
import Choice from '../../controls/Choice.vue'
import { handToDownloads } from '../../controls'
import { useWorkspace } from '../../data'
import { statusNames } from '../status'
import { useNotices } from '../../notices'
import type { SettledPeople } from '../batch-changes'
import { useLongWork } from '../long-work'
import { useMembers } from '../../people'
import { peopleCount } from '../people-count'
import WorkProgress from '../WorkProgress.vue'

/** Saves who is on a list, or those of them who were looked for, as a file. */
const { list, chosen: people } = defineProps<{ list: List; chosen: SettledPeople }>()
const { count } = people
const emit = defineEmits<{ close: [] }>()
const workspace = useWorkspace()
const members = useMembers()
const notices = useNotices()
const isOpen = ref(true)
const work = useLongWork()
const format = ref<PeopleFormat | ''>('csv')
const formats = [
  { value: 'csv' as const, label: 'Table (CSV)' },
  { value: 'json-lines' as const, label: 'For programs (JSON Lines)' },
  { value: 'vcard' as const, label: 'Contacts (vCard)' },
]
const columns = computed(() => [...list.columns, ...factColumns])
/** Receipts when they are asked for: few files need them. */
const chosen = ref(columns.value.map(({ key }) => key).filter((key) => key !== ':receipt'))

/** In the words of the screen: for programs, a status is told as they know it. */
const words = () => ({
  ...(format.value === 'csv' && { status: statusNames }),
  spots: Object.fromEntries(workspace.spots.map((spot) => [spot.id, spotName(spot, workspace.sites)])),
})

async function save(): Promise<void> {
  if (format.value === '') return
  const kind = format.value
  const wantedColumns = columns.value.filter(({ key }) => chosen.value.includes(key))
  const file = await work.run(`Writing ${peopleCount(count)}`, (following) =>
    members.work('file', following, people.people, kind, wantedColumns, words()),
  )
  if (file === null) return
  const name = list.name.replace(/[^\p{L}\p{N} _-]+/gu, '').trim() || 'list'
  handToDownloads({ blob: file.blob, name: `${name} ${now().slice(0, 10)}.${file.ending}` })
  notices.done(`${file.count === 1 ? 'One person is' : `${file.count} people are`} in the file.`)
  isOpen.value = false
}
</script>

<template>
  <ElDialog
    v-model="isOpen"
    :title="count === 1 ? 'Save one person as a file' : `Save ${peopleCount(count)} as a file`"
    width="min(520px, 94vw)"
    append-to-body
    @closed="emit('close')"
  >
    <form novalidate @submit.prevent="save">
      <Choice v-model="format" name="format" label="As" :options="formats" />
      <fieldset>
        <legend>With the address, and</legend>
        <ElCheckboxGroup v-model="chosen" class="columns" aria-label="Columns">
          <ElCheckbox v-for="column in columns" :key="column.key" :value="column.key" :label="column.label" />
        </ElCheckboxGroup>
      </fieldset>
      <p v-if="format === 'csv'" class="quiet small">
        A cell that a spreadsheet would take for a formula begins with an apostrophe there.
      </p>
      <WorkProgress :work="work" />
      <div class="row">
        <ElButton type="primary" native-type="submit" :disabled="work.isWorking.value">Save the file</ElButton>
        <ElButton text @click="isOpen = false">Cancel</ElButton>
      </div>
    </form>
  </ElDialog>
</template>

<style scoped>
form {
  display: grid;
  gap: var(--gap-4);
}
fieldset {
  margin: 0;
  padding: 0;
  border: 0;
}
legend {
  margin-block-end: var(--gap-2);
  padding: 0;
  font-weight: 600;
}
.columns {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(160px, 1fr));
}
p {
  margin: 0;
}
</style>

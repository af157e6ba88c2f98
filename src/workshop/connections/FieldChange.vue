<script setup lang="ts">
import { ArrowRight } from '@lucide/vue'
import { ElButton, ElDialog } from 'element-plus'
import { computed, onMounted, ref, shallowRef } from 'vue'
import {
  type Connection,
  type HandOver,
  lostMatches,
  matchAnew,
  type TheirField,
  unfilledFields,
} from '#core/connection'
import { columnsOf, type List } from '#core/list'
import Select from '../controls/Select.vue'
import { useWorkspace } from '../data'
import { useNotices } from '../notices'
import { lostWords, unfilledWords, useOutside } from '.'
import { useReceiver } from '../sync'

/** Which column fills which field there, held against what the service has now. */
const { list, handOver, connection } = defineProps<{ list: List; handOver: HandOver; connection: Connection }>()
const workspace = useWorkspace()
const outside = useOutside()
const notices = useNotices()
const receiver = useReceiver()
const fields = shallowRef<TheirField[] | null>(null)
const isOpen = ref(false)
const chosen = ref<Record<string, string>>({})

onMounted(look)
async function look(): Promise<void> {
  const { way } = connection
  if (way.kind !== 'api' || outside.client === null) return
  const asked = await outside.client
    .askService({
      connection: connection.id,
      way,
      what: 'fields',
      values: { list: handOver.target?.id ?? '' },
    })
    .catch(() => null)
  fields.value = asked?.means === 'done' ? asked.fields : null
}

const lost = computed(() => (fields.value === null ? [] : lostMatches(fields.value, handOver.fields)))
const unfilled = computed(() => (fields.value === null ? [] : unfilledFields(fields.value, handOver.fields)))
const labelOf = (column: string) => columnsOf(list).find(({ key }) => key === column)?.label ?? column
const options = computed(() => [
  { value: '', label: 'does not go there' },
  ...(fields.value ?? []).map(({ key, name }) => ({ value: key, label: name === key ? name : `${name} (${key})` })),
])

/** Columns that can go along: the list's, and what goes along of the address or of a column that is gone. */
const columns = computed(() => [
  ...list.columns,
  ...handOver.fields
    .filter(({ column }) => !list.columns.some(({ key }) => key === column))
    .map(({ column }) => ({ key: column, label: labelOf(column) })),
])
/** Fields that went there and have nothing like them now. */
const notMatched = ref<string[]>([])

/** As it is, and for what is lost what is most like it now. */
function suggested(): Record<string, string> {
  const found = matchAnew(columns.value, fields.value ?? [], handOver.fields)
  return Object.fromEntries(
    columns.value.map(({ key }) => [key, found.find(({ column }) => column === key)?.key ?? '']),
  )
}

/** Nothing that went there until now is left out without a word. */
async function matchLost(): Promise<void> {
  const matches = suggested()
  notMatched.value = lost.value.filter(({ column }) => (matches[column] ?? '') === '').map(({ name }) => name)
  if (notMatched.value.length === 0) await keep(matches)
  else await open()
}

async function open(): Promise<void> {
  await look()
  if (fields.value === null) return notices.problem('The service does not tell its fields now. Try again in a while.')
  chosen.value = suggested()
  isOpen.value = true
}

async function keep(matches: Record<string, string>): Promise<void> {
  const before = handOver
  const after: HandOver = {
    ...handOver,
    fields: Object.entries(matches)
      .filter(([, key]) => key !== '')
      .map(([column, key]) => ({ column, key, name: fields.value?.find((one) => one.key === key)?.name ?? key })),
  }
  isOpen.value = false
  await workspace.keepHandOver(after)
  // The receiver has to know of them before anybody is tried again.
  await receiver.tell('handOver', handOver.id)
  await outside.client?.handOverAgain(handOver.id).catch(() => null)
  await outside.look()
  notices.done('People go there with these fields now, and who was refused is tried again.', () =>
    workspace.keepHandOver(before),
  )
}
</script>

<template>
  <section class="fields" aria-labelledby="along-title">
    <div class="row">
      <h2 id="along-title">What goes along</h2>
      <ElButton size="small" @click="open()">Change</ElButton>
    </div>
    <div v-if="lost.length > 0 || unfilled.length > 0" class="sheet told" role="alert">
      <p v-if="lost.length > 0" class="problem">{{ lostWords(lost) }}</p>
      <p v-if="unfilled.length > 0" class="problem">{{ unfilledWords(unfilled) }}</p>
      <ElButton v-if="lost.length > 0" type="primary" class="start" @click="matchLost()">Match them anew</ElButton>
    </div>
    <ul>
      <li v-for="{ column, key, name } in handOver.fields" :key="column">
        {{ labelOf(column) }} <ArrowRight :size="14" aria-label="to" /> {{ name }}
        <span v-if="lost.some((one) => one.key === key)" class="problem small">not there any more</span>
      </li>
      <li v-if="handOver.fields.length === 0" class="quiet">The address alone.</li>
    </ul>
    <ElDialog v-model="isOpen" title="What goes along" width="min(640px, 94vw)" append-to-body>
      <p v-if="notMatched.length > 0" class="problem" role="alert">
        Nothing there is like {{ notMatched.map((name) => `“${name}”`).join(', ') }}. Choose where it goes now, or leave
        it out.
      </p>
      <div class="pairs">
        <template v-for="{ key, label } in columns" :key="key">
          <strong>{{ label }}</strong>
          <Select
            :model-value="chosen[key] ?? ''"
            :label="`Where ${label} goes`"
            :options="options"
            @update:model-value="chosen = { ...chosen, [key]: String($event) }"
          />
        </template>
      </div>
      <template #footer>
        <ElButton text @click="isOpen = false">Cancel</ElButton>
        <ElButton type="primary" @click="keep(chosen)">Keep it so</ElButton>
      </template>
    </ElDialog>
  </section>
</template>

<style scoped>
.fields {
  display: grid;
  gap: var(--gap-2);
}
.told {
  display: grid;
  gap: var(--gap-2);
  padding: var(--gap-3) var(--gap-4);
}
.start {
  justify-self: start;
}
h2,
p {
  margin: 0;
}
ul {
  display: flex;
  flex-wrap: wrap;
  gap: var(--gap-1) var(--gap-5);
  margin: 0;
  padding: 0;
  list-style: none;
}
.pairs {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.4fr);
  gap: var(--gap-3);
  align-items: center;
}
</style>

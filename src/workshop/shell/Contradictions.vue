<script setup lang="ts">
import { ElButton, ElDialog, ElTable, ElTableColumn } from 'element-plus'
import { computed, shallowRef, watch } from 'vue'
import { differences, type Form } from '#core/form'
import type { Body, Kind } from '#core/sync'
import { bodyHere, chooseHere, chooseThere, database, type Synced } from '../data'
import { useNotices } from '../notices'
import { useWaiting } from '../sync'
import { stacked } from '../controls'

/** What was changed here and in another browser in the same part: both sides, and the choice between them. */
const waiting = useWaiting()
const notices = useNotices()
const chosen = shallowRef<Synced | null>(null)
const here = shallowRef<Body | null>(null)
const kindNames: Record<Kind, string> = {
  preferences: 'Settings',
  site: 'Site',
  list: 'List',
  mail: 'Mail of a list',
  connection: 'Connection',
  handOver: 'Hand-over',
  theme: 'Theme',
  picture: 'Picture',
  form: 'Form',
  version: 'Version',
  spot: 'Spot',
  trial: 'Trial of wordings',
  proof: 'Rehearsal',
  letter: 'Letter',
  series: 'Series of letters',
  feed: 'Feed of a site',
}
const there = computed(() => chosen.value?.conflict?.body ?? null)
const isOpen = computed({ get: () => chosen.value !== null, set: (is) => is || (chosen.value = null) })
// Chosen in another tab, or settled by a further change.
watch(
  () => waiting.conflicts,
  (all) => {
    if (chosen.value !== null && !all.some(({ id }) => id === chosen.value?.id)) chosen.value = null
  },
)

function nameOf(one: Synced): string {
  const body = (one.body ?? one.conflict?.body) as { name?: string } | null
  return body?.name === undefined ? kindNames[one.kind] : `${kindNames[one.kind]} “${body.name}”`
}

async function look(one: Synced): Promise<void> {
  here.value = await bodyHere(one.kind, one.key)
  chosen.value = one
}

/** What differs, a line each: what it is, how it is here, how it is there. */
const lines = computed((): { what: string; here: string; there: string }[] => {
  if (chosen.value === null) return []
  if (here.value === null || there.value === null)
    return [
      {
        what: 'It',
        here: here.value === null ? 'was deleted' : 'was changed',
        there: there.value === null ? 'was deleted' : 'was changed',
      },
    ]
  const [one, other] = [here.value, there.value] as unknown as [Record<string, unknown>, Record<string, unknown>]
  const parts = [...new Set([...Object.keys(one), ...Object.keys(other)])].filter(
    (part) => part !== 'draft' && JSON.stringify(one[part]) !== JSON.stringify(other[part]),
  )
  const draft = chosen.value.kind === 'form' ? differences((here.value as Form).draft, (there.value as Form).draft) : []
  return [
    ...parts.map((part) => ({ what: part, here: shown(one[part]), there: shown(other[part]) })),
    ...draft.map(({ what, before, after }) => ({ what, here: before, there: after })),
  ]
})

function shown(value: unknown): string {
  return typeof value === 'string' ? value : value === null || value === undefined ? '' : JSON.stringify(value)
}

const sides = [
  { key: 'here', name: 'Here' },
  { key: 'there', name: 'In the other browser' },
]
const isColour = (value: string) => /^#[0-9a-f]{6}$/i.test(value)

async function keepHere(one: Synced): Promise<void> {
  chosen.value = null
  await chooseHere(one.id)
  notices.done(`${nameOf(one)}: the change made here goes on, and the other browser gets it.`)
}

async function takeThere(one: Synced): Promise<void> {
  chosen.value = null
  const bringBack = await chooseThere(one.id)
  notices.done(`${nameOf(one)}: the other browser’s change is taken.`, bringBack)
}
</script>

<template>
  <section class="contradictions" aria-label="Changes that contradict">
    <p v-for="one in waiting.conflicts" :key="one.id" role="alert">
      <b>{{ nameOf(one) }}</b> was changed here and in another browser. Neither is lost, and nothing is sent until you
      choose.
      <ElButton size="small" @click="look(one)">Look at both</ElButton>
    </p>
    <p v-for="one in waiting.refused" :key="one.id" role="alert">
      <b>{{ nameOf(one) }}</b> could not be sent: {{ one.refusal?.message }} It is kept here.
      <ElButton size="small" text @click="database.synced.update(one.id, { refusal: undefined })">Try again</ElButton>
    </p>
    <ElDialog
      v-model="isOpen"
      :title="chosen ? `${nameOf(chosen)}, changed twice` : ''"
      width="min(900px, 94vw)"
      append-to-body
    >
      <ElTable v-bind="stacked" :data="lines" table-layout="auto">
        <ElTableColumn prop="what" label="What" />
        <ElTableColumn v-for="side in sides" :key="side.key" :label="side.name" class-name="value">
          <template #default="{ row }">
            <span v-if="isColour(row[side.key])" class="swatch" :style="{ background: row[side.key] }" />{{
              row[side.key] || '–'
            }}
          </template>
        </ElTableColumn>
      </ElTable>
      <template v-if="chosen" #footer>
        <div class="row choice">
          <ElButton type="primary" @click="keepHere(chosen)">Go on with what is here</ElButton>
          <ElButton @click="takeThere(chosen)">Take the other browser’s</ElButton>
          <ElButton text @click="isOpen = false">Decide later</ElButton>
        </div>
      </template>
    </ElDialog>
  </section>
</template>

<style scoped>
.contradictions p {
  margin: 0;
  padding: var(--gap-2) var(--page-edge);
  border-bottom: 1px solid var(--raspberry);
  background: var(--raspberry-wash);
}
:deep(.value) {
  white-space: pre-line;
  overflow-wrap: anywhere;
}
.swatch {
  display: inline-block;
  width: 1em;
  height: 1em;
  margin-inline-end: 0.5em;
  border: 1px solid var(--hairline);
  border-radius: 3px;
  vertical-align: -0.1em;
}
.choice {
  justify-content: flex-start;
}
</style>

<script setup lang="ts">
import { ElButton, ElTable, ElTableColumn } from 'element-plus'
import { computed, onScopeDispose, ref, shallowRef } from 'vue'
import { useRouter } from 'vue-router'
import type { ComparedPerson, ComparedStanding, Comparison } from '#core/api'
import { placeOf, type Connection, type HandOver } from '#core/connection'
import type { List } from '#core/list'
import AddressText from '../controls/AddressText.vue'
import Views from '../controls/Views.vue'
import { useNotices } from '../notices'
import { useBatchChanges, handToImport, useLongWork, peopleCount } from '../lists'
import WorkProgress from '../lists/WorkProgress.vue'
import { useOutside } from '.'
import { stacked } from '../controls'

/** Our list and theirs, person by person: who is only here, only there, or otherwise there; each mended by one press. */
const { list, handOver, connection } = defineProps<{ list: List; handOver: HandOver; connection: Connection }>()
const outside = useOutside()
const notices = useNotices()
const router = useRouter()
const work = useLongWork()
const batches = useBatchChanges(work)
const comparison = shallowRef<Comparison | null>(null)
const shown = ref<ComparedStanding>('only-here')
const LOOK_EVERY_MS = 400
let timer: ReturnType<typeof setTimeout> | null = null
onScopeDispose(() => timer !== null && clearTimeout(timer))

const there = computed(() => handOver.target?.name ?? placeOf(connection.way))
const names: Record<ComparedStanding, string> = {
  'only-here': 'Only here',
  'only-there': 'Only there',
  differs: 'Otherwise there',
  'left-there': 'Left there',
  'left-here': 'Left here, still there',
}
const views = computed(() =>
  (Object.keys(names) as ComparedStanding[])
    .filter((standing) => (comparison.value?.counts[standing] ?? 0) > 0)
    .map((value) => ({ value, label: `${names[value]} · ${comparison.value!.counts[value].toLocaleString('en')}` })),
)
const rows = computed(() =>
  (comparison.value?.people ?? [])
    .filter(({ standing }) => standing === shown.value)
    .map((person) => ({ ...person, told: toldOf(person) })),
)
const count = computed(() => comparison.value?.counts[shown.value] ?? 0)

function toldOf({ differences, theirs }: ComparedPerson): string {
  if (differences.length > 0)
    return differences.map(({ part, ours, theirs }) => `${part}: “${ours}” here, “${theirs}” there`).join(' · ')
  return Object.values(theirs?.values ?? {}).join(', ')
}

async function begin(): Promise<void> {
  try {
    comparison.value = await outside.client!.beginComparing(handOver.id)
    follow()
  } catch (error) {
    notices.problem(error instanceof Error ? error.message : String(error))
  }
}

function follow(): void {
  if (timer !== null) clearTimeout(timer)
  timer = setTimeout(async () => {
    const next = await outside.client?.comparison(handOver.id).catch(() => null)
    if (next !== null && next !== undefined) comparison.value = next
    if (comparison.value?.state === 'reading') follow()
    else if (views.value[0] !== undefined) shown.value = views.value[0].value
  }, LOOK_EVERY_MS)
}

async function stop(): Promise<void> {
  comparison.value = (await outside.client?.stopComparing(handOver.id)) ?? null
}

async function mendThere(): Promise<void> {
  const { count } = await outside.client!.mendThere(handOver.id, shown.value)
  notices.done(`${peopleCount(count)} ${count === 1 ? 'goes' : 'go'} there now. Compare again to see it.`)
  comparison.value = null
  await outside.look()
}

/** What they have there is looked at as any file that is brought in: with a dry run, and how they agreed. */
async function bringIn(): Promise<void> {
  const { people } = await outside.client!.foundPeople(handOver.id, shown.value)
  const ours = new Map(handOver.fields.map(({ key, column }) => [key, column]))
  const lines = people.map(({ email, theirs }) =>
    JSON.stringify({
      email,
      ...Object.fromEntries(
        Object.entries(theirs?.values ?? {}).flatMap(([key, value]) => {
          const column = ours.get(key)
          return column === undefined ? [] : [[column, value]]
        }),
      ),
      ...(theirs?.tags && theirs.tags.length > 0 && { tags: theirs.tags }),
    }),
  )
  handToImport(new Blob([lines.join('\n')]), `${there.value}.jsonl`)
  await router.push({ name: 'import', params: { id: list.id } })
}

async function takeOffHere(): Promise<void> {
  const { people } = await outside.client!.foundPeople(handOver.id, shown.value)
  const only = people.flatMap(({ member }) => member ?? [])
  const chosen = await batches.settle({ list: list.id, only })
  if (chosen === null) return
  await batches.change(chosen, { kind: 'remove' })
  comparison.value = null
}
</script>

<template>
  <section class="comparing" aria-labelledby="comparing-title">
    <div class="row">
      <h2 id="comparing-title">Both lists compared</h2>
      <ElButton v-if="comparison?.state === 'reading'" size="small" @click="stop()">Stop</ElButton>
      <ElButton v-else size="small" @click="begin()">{{ comparison ? 'Compare again' : 'Compare now' }}</ElButton>
    </div>
    <p v-if="comparison === null" class="quiet small">
      Reads {{ there }} and this list, and shows who is only here, only there, or otherwise there. Nothing is changed by
      it: so you also see what handing over who is on the list already would do.
    </p>
    <p v-else-if="comparison.state === 'reading'" role="status">
      {{ comparison.read.toLocaleString('en') }} people looked at …
    </p>
    <p v-else-if="comparison.state === 'failed'" class="problem" role="alert">
      Their list could not be read. {{ comparison.said }}
    </p>
    <template v-else>
      <p role="status">
        <strong>{{ comparison.same.toLocaleString('en') }}</strong> of {{ comparison.read.toLocaleString('en') }} people
        are the same at both ends.
      </p>
      <template v-if="views.length > 0">
        <Views v-model="shown" label="Where they differ" :views="views" />
        <ElTable v-bind="stacked" :data="rows" max-height="360" row-key="email">
          <ElTableColumn label="Address" width="300" show-overflow-tooltip>
            <template #default="{ row }"><AddressText :address="row.email" /></template>
          </ElTableColumn>
          <ElTableColumn prop="told" label="What of it" show-overflow-tooltip />
        </ElTable>
        <p v-if="count > rows.length" class="quiet small">
          The first {{ rows.length }} of {{ count.toLocaleString('en') }} are shown.
        </p>
        <div class="row">
          <ElButton v-if="shown === 'only-here'" type="primary" @click="mendThere()"
            >Hand over {{ peopleCount(count) }}</ElButton
          >
          <ElButton v-if="shown === 'differs'" type="primary" @click="mendThere()">Make it there as here</ElButton>
          <ElButton v-if="shown === 'left-here'" type="primary" @click="mendThere()">Take them off there</ElButton>
          <ElButton v-if="shown === 'left-there'" type="primary" @click="takeOffHere()">Take them off here</ElButton>
          <ElButton
            v-if="shown === 'only-there' || shown === 'differs'"
            :type="shown === 'only-there' ? 'primary' : undefined"
            @click="bringIn()"
            >{{ shown === 'only-there' ? 'Look at bringing them in' : 'Look at making it here as there' }}</ElButton
          >
        </div>
      </template>
    </template>
    <WorkProgress :work="work" />
  </section>
</template>

<style scoped>
.comparing {
  display: grid;
  gap: var(--gap-3);
}
h2,
p {
  margin: 0;
}
</style>

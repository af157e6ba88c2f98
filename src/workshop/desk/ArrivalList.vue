<script setup lang="ts">
import { computed, defineAsyncComponent, ref, shallowRef, watch } from 'vue'
import { RouterLink } from 'vue-router'
import { ElButton } from 'element-plus'
import type { ListId, MemberId } from '#core/ids'
import type { Arrival, Verdict } from '#core/journal'
import { isDemo, queueCommand, useArrivals, useWorkspace } from '../data'
import { shownMoment } from '../controls'
import { newMemberId, useAsked, useMembers } from '../people'
import { useNotices } from '../notices'
import { useReceiver } from '../sync'
import { standingWords } from './arrival-words'

/** The newest sign-ups as they come in. */
const { count } = defineProps<{ count: number }>()

const ArrivalFilter = defineAsyncComponent(() => import('./ArrivalFilter.vue'))
const workspace = useWorkspace()
const store = useArrivals()
/** What is shown while it is paused; null while sign-ups are followed as they come. */
const held = shallowRef<readonly Arrival[] | null>(null)
const wanted = ref<Verdict | 'all'>('all')
const form = ref('all')
const isFiltering = ref(false)
function toggleFilter(): void {
  isFiltering.value = !isFiltering.value
  // What is not seen does not filter.
  if (!isFiltering.value) [wanted.value, form.value] = ['all', 'all']
}
const shown = computed(() => held.value ?? store.newest)
const arrivals = computed(() =>
  shown.value
    ?.filter(({ verdict }) => wanted.value === 'all' || verdict === wanted.value)
    .filter((arrival) => form.value === 'all' || arrival.form === form.value)
    .slice(0, count),
)
/** Those that came while it was paused. */
const missed = computed(() => {
  const last = held.value?.[0]?.n ?? 0
  return held.value === null ? 0 : (store.newest?.filter(({ n }) => n > last).length ?? 0)
})
const members = useMembers()
const notices = useNotices()
/** Where people are now is told by the worker that knows everybody, which the first screen does not wait for. */
const mayAsk = ref(false)
const receiver = useReceiver()
const ASK_AFTER_MS = 1_500
watch(
  () => receiver.isLinked || isDemo,
  (isHere) => isHere && setTimeout(() => (mayAsk.value = true), ASK_AFTER_MS),
  { immediate: true },
)
/** Of those who are shown, by the number of their sign-up. */
const standings = useAsked([arrivals, () => members.changes, mayAsk], () => (mayAsk.value ? standingsNow() : null))
async function standingsNow() {
  const people = (arrivals.value ?? []).flatMap(({ n, list, member }) => (member === null ? [] : [{ n, list, member }]))
  const of = people.map(({ list, member }): { list: ListId; member: MemberId } => ({ list, member }))
  const found = await members.ask('standings', of)
  return new Map(people.map(({ n }, at) => [n, found[at] ?? undefined]))
}

/** A person may have met the trap, on a site that shows it or with a browser that fills everything in. */
async function letIn({ list, personal }: Arrival): Promise<void> {
  if (!personal?.email) return
  const { email, values } = personal
  const holder = await members.withAddress(list, email.compared)
  if (holder !== null) {
    notices.done(`${email.typed} is in this list already (${holder.status}).`)
    return
  }
  await queueCommand({ kind: 'add-member', list, member: newMemberId(), email: email.typed, values })
  notices.done(`${email.typed} is on the list.`)
}
</script>

<template>
  <header class="row tools">
    <h2 id="arrivals-title">Newest sign-ups</h2>
    <ElButton text :aria-expanded="isFiltering" @click="toggleFilter">Filter</ElButton>
    <ElButton text :aria-pressed="held !== null" @click="held = held === null ? [...(store.newest ?? [])] : null">{{
      held === null ? 'Pause' : missed > 0 ? `Go on, ${missed} new` : 'Go on'
    }}</ElButton>
  </header>
  <ArrivalFilter v-if="isFiltering" v-model:verdict="wanted" v-model:form="form" />
  <p v-if="arrivals?.length === 0" class="quiet">
    {{ shown?.length === 0 ? 'None yet. They appear here the moment they arrive.' : 'None of these among the newest.' }}
  </p>
  <ol v-else aria-live="polite">
    <li v-for="arrival in arrivals" :key="arrival.n">
      <span class="who">{{
        standings?.get(arrival.n)?.email.typed ?? arrival.personal?.email?.typed ?? 'no readable address'
      }}</span>
      <span class="when">{{ shownMoment(arrival.at) }}</span>
      <span class="what" :class="arrival.verdict">
        {{ standingWords(arrival, standings?.get(arrival.n)?.status) }} ·
        <RouterLink :to="{ name: 'list', params: { id: arrival.list } }">{{
          workspace.list(arrival.list)?.name ?? 'a list'
        }}</RouterLink>
      </span>
      <ElButton
        v-if="arrival.verdict === 'bot' && arrival.personal?.email"
        link
        :aria-label="`Put on the list: ${arrival.personal.email.typed}`"
        @click="letIn(arrival)"
        >Put on the list</ElButton
      >
    </li>
  </ol>
</template>

<style scoped>
.tools {
  margin-bottom: var(--gap-1);
}
h2 {
  flex: 1;
}
.tools .el-button {
  margin: 0;
  padding-inline: var(--gap-2);
  justify-self: auto;
}
ol {
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 0 var(--gap-2);
  padding: var(--gap-2) 0;
  border-top: 1px solid var(--hairline);
  line-height: 1.3;
}
.who {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.when,
.what {
  color: var(--quiet);
  font-size: var(--text-s);
}
.el-button {
  justify-self: end;
  font-size: var(--text-s);
}
.what.bot {
  font-style: italic;
}
.what a {
  color: inherit;
}
</style>

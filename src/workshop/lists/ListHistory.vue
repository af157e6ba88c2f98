<script setup lang="ts">
import { ElButton, ElCollapse, ElCollapseItem } from 'element-plus'
import { computed, shallowRef, watch } from 'vue'
import type { BatchRecord, List } from '#core/list'
import { shownMoment } from '../controls'
import { useWorkspace } from '../data'
import { changeWords, useBatchChanges } from './batch-changes'
import { useLongWork } from './long-work'
import { useMembers } from '../people'
import { useKeyNames } from '../sync'
import { peopleCount } from './people-count'
import Changes from '../controls/Changes.vue'
import WorkProgress from './WorkProgress.vue'

/** What was done to many people of a list at once: files that were brought in, changes, each undone as a whole. */
const { list } = defineProps<{ list: List }>()
const workspace = useWorkspace()
const names = useKeyNames()
const members = useMembers()
const work = useLongWork()
const batches = useBatchChanges(work)
const SHOWN = 50

const records = shallowRef<readonly BatchRecord[]>([])
watch(
  [() => list.id, () => members.changes],
  async () => {
    const mine = list.id
    const all = await members.ask('batches', mine)
    if (mine === list.id) records.value = all
  },
  { immediate: true },
)

const rows = computed(() =>
  records.value.slice(0, SHOWN).map((record) => ({
    record,
    what: whatOf(record),
    outcome: outcomeOf(record),
    isUndoable:
      record.ended !== null &&
      record.ended.counts.done > 0 &&
      record.undoneBy === null &&
      record.purpose.kind !== 'undo' &&
      record.purpose.kind !== 'erase',
  })),
)

function whatOf({ purpose }: BatchRecord): string {
  switch (purpose.kind) {
    case 'import':
      return `Brought in “${purpose.from}”`
    case 'copy':
      return `Brought over from “${workspace.list(purpose.from)?.name ?? 'a list that is gone'}”`
    case 'change':
      return changeWords(purpose.change)[0]
    case 'erase':
      return 'Erased'
    case 'undo': {
      const undone = records.value.find(({ id }) => id === purpose.of)
      return undone === undefined ? 'Undone' : `Undone: ${whatOf(undone)}`
    }
  }
}

function outcomeOf({ ended, undoneBy }: BatchRecord): string {
  if (ended === null) return 'going on'
  const { done, same, passedOver } = ended.counts
  const parts = [
    peopleCount(done),
    same > 0 ? `${same} had it so already` : '',
    passedOver > 0 ? `${passedOver} left as they are` : '',
    ended.isStopped ? 'stopped there' : '',
    undoneBy !== null ? 'undone' : '',
  ]
  return parts.filter(Boolean).join(', ')
}

const reasons = {
  'changed-since': 'changed since',
  gone: 'not here any more',
  'there-already': 'here already',
  'erased-before': 'erased before',
  'off-the-list': 'off the list, and stay so',
  'yet-to-confirm': 'have yet to confirm',
  invalid: 'no address',
}
</script>

<template>
  <ElCollapse v-if="records.length > 0" class="history">
    <ElCollapseItem name="history">
      <template #title>
        <span class="title"
          ><h2>Files and changes of many</h2>
          <span class="quiet small">{{ records.length }}</span></span
        >
      </template>
      <WorkProgress :work="work" />
      <ul>
        <li v-for="{ record, what, outcome, isUndoable } in rows" :key="record.id">
          <span class="what">{{ what }}</span>
          <span>{{ outcome }}</span>
          <time class="quiet small" :datetime="record.begunAt"
            >{{ shownMoment(record.begunAt)
            }}<template v-if="names.nameOf(record.by)">, {{ names.nameOf(record.by) }}</template></time
          >
          <Changes v-if="isUndoable">
            <ElButton :disabled="work.isWorking.value || undefined" @click="batches.undo(record.id)">Undo</ElButton>
          </Changes>
          <span v-else />
          <p v-if="record.purpose.kind === 'import'" class="quiet small">
            How they agreed, as you stated: “{{ record.purpose.consent }}”
          </p>
          <p v-if="record.ended && record.ended.passedOver.length > 0" class="quiet small">
            Left as they are:
            <template v-for="(one, at) in record.ended.passedOver.slice(0, 20)" :key="one.member"
              ><template v-if="at > 0">, </template
              ><RouterLink :to="{ name: 'person', params: { id: list.id, member: one.member } }">{{
                reasons[one.reason]
              }}</RouterLink></template
            >
          </p>
        </li>
      </ul>
    </ElCollapseItem>
  </ElCollapse>
</template>

<style scoped>
.title {
  display: flex;
  gap: var(--gap-3);
  align-items: baseline;
}
ul {
  display: grid;
  grid-template-columns: minmax(0, 2fr) minmax(0, 2fr) auto auto;
  gap: var(--gap-2) var(--gap-4);
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  grid-template-columns: subgrid;
  grid-column: 1 / -1;
  align-items: center;
  min-height: 36px;
}
li p {
  grid-column: 1 / -1;
}
.what {
  font-weight: 600;
}
</style>

<script setup lang="ts">
import { ref, shallowRef } from 'vue'
import type { List, Wanted } from '#core/list'
import { type SettledPeople, useBatchChanges } from '../batch-changes'
import EraseDialog from '../EraseDialog.vue'
import { useLongWork } from '../long-work'
import WorkProgress from '../WorkProgress.vue'
import BulkBar from './BulkBar.vue'
import BulkDialog from './BulkDialog.vue'
import type { Chosen } from './chosen'
import type FilterBar from './FilterBar.vue'
import SavePeople from './SavePeople.vue'
import { useConditionNames, wantedWords } from './wanted-words'

/** What is done to several at once: they are settled, as ids, when its dialog opens, whoever joins or is brought in meanwhile. */
const { list, chosen, bar, isCurrent } = defineProps<{
  list: List
  chosen: Chosen
  /** Tags and imports of the list, where filters are offered. */
  bar: InstanceType<typeof FilterBar> | null
  /** Whether what is found is what is looked for. */
  isCurrent: boolean
}>()

type Change = 'tag' | 'set' | 'copy' | 'remove' | 'restore'
const dialog = ref<Change | 'erase' | 'save' | null>(null)
/** Those that the dialog is about. */
const people = shallowRef<(SettledPeople & { how: string }) | null>(null)
const isSettling = ref(false)
const work = useLongWork()
const batches = useBatchChanges(work)
const nameOf = useConditionNames(
  () => list,
  () => bar?.imports ?? [],
)

async function open(what: Change | 'erase' | 'save', wanted: Wanted): Promise<void> {
  isSettling.value = true
  const settled = await batches.settle(wanted)
  isSettling.value = false
  people.value = settled && { ...settled, how: wantedWords(wanted, nameOf) }
  if (settled !== null) dialog.value = what
}
const close = () => (dialog.value = null)
defineExpose({ isSettling, save: (wanted: Wanted) => open('save', wanted) })
</script>

<template>
  <WorkProgress :work="work" />
  <BulkBar
    v-if="chosen.count.value > 0"
    :count="chosen.count.value"
    :is-busy="work.isWorking.value || !isCurrent || isSettling"
    @act="open($event, chosen.wanted())"
    @clear="chosen.clear()"
  />
  <template v-if="people !== null && dialog !== null">
    <SavePeople v-if="dialog === 'save'" :list="list" :chosen="people" @close="close" />
    <EraseDialog
      v-else-if="dialog === 'erase'"
      :list="list"
      :chosen="people"
      :how="people.how"
      @done="chosen.clear()"
      @close="close"
    />
    <BulkDialog
      v-else
      :list="list"
      :act="dialog"
      :chosen="people"
      :how="people.how"
      :tags="bar?.tags ?? []"
      :work="work"
      @close="close"
    />
  </template>
</template>

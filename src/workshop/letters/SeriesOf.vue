<script setup lang="ts">
import { ElEmpty } from 'element-plus'
import type { Component } from 'vue'
import { inOrder, type Series } from '#core/letter'
import { useWorkspace } from '../data'
import LetterRow from './LetterRow.vue'
import { useLetters } from './store'

/** The series of letters by days since joining. */
defineProps<{ icon: Component }>()
const letters = useLetters()
const workspace = useWorkspace()

function stateOf({ published, isPaused, draft }: Series): string {
  const days = inOrder(draft.steps).map(({ days }) => days)
  const says = days.length === 0 ? 'no letter yet' : `on day ${days.join(', ')}`
  if (published === null) return `${says}; not begun`
  return `${says}; ${isPaused ? 'paused' : 'goes on'}`
}
</script>

<template>
  <ElEmpty
    v-if="letters.isLoaded && letters.series.length === 0"
    class="sheet"
    description="No series yet. A few letters, some days after somebody joined: who you are, what is worth reading, what they can ask."
  />
  <ul v-else>
    <LetterRow
      v-for="series in letters.series"
      :key="series.id"
      :icon="icon"
      :to="{ name: 'series', params: { id: series.id } }"
      :title="series.draft.name || 'A series without a name'"
      :lists="workspace.list(series.draft.list)?.name ?? 'a list that is gone'"
      >{{ stateOf(series) }}</LetterRow
    >
  </ul>
</template>

<style scoped>
ul {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-2);
  margin: 0;
  padding: 0;
}
</style>

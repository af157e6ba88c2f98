<script setup lang="ts">
import { ElEmpty } from 'element-plus'
import { RouterLink } from 'vue-router'
import type { Component } from 'vue'
import { inOrder, type Series } from '#core/letter'
import { useWorkspace } from '../data'
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
    <li v-for="series in letters.series" :key="series.id">
      <RouterLink class="sheet one" :to="{ name: 'series', params: { id: series.id } }">
        <component :is="icon" :size="18" aria-hidden="true" />
        <b>{{ series.draft.name || 'A series without a name' }}</b>
        <span class="quiet small">{{ workspace.list(series.draft.list)?.name ?? 'a list that is gone' }}</span>
        <span class="small">{{ stateOf(series) }}</span>
      </RouterLink>
    </li>
  </ul>
</template>

<style scoped>
ul {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-2);
  margin: 0;
  padding: 0;
  list-style: none;
}
.one {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr) minmax(0, 14rem) minmax(0, 20rem);
  gap: 2px var(--gap-3);
  align-items: center;
  padding: var(--gap-3) var(--gap-4);
  color: inherit;
  text-decoration: none;
}
.one:hover {
  border-color: var(--moss);
}
.one svg {
  color: var(--quiet);
}
@media (max-width: 700px) {
  .one {
    grid-template-columns: auto minmax(0, 1fr);
  }
  .one > span {
    grid-column: 2;
  }
}
</style>

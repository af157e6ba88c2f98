<script setup lang="ts">
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import type { List } from '#core/list'
import type { GrowthRow } from '#core/results'
import { useOutside } from '../connections'
import { useWorkspace } from '../data'
import { useMembers } from '../people'
import { weekOf } from './growth'

/** A list in one line: how many are on it, who came of late, and where handing on is stuck. */
const { list, growth } = defineProps<{
  list: List
  /** Null until it is counted. */ growth: readonly GrowthRow[] | null
}>()
const workspace = useWorkspace()
const members = useMembers()
const outside = useOutside()
const counts = computed(() => members.countsOf(list.id))
const gone = computed(() =>
  counts.value === null ? 0 : counts.value.left + counts.value.removed + counts.value.bounced,
)
const week = computed(() => weekOf(growth))
/** The list there, or how it is handed on, and what is wrong. */
const stuck = computed(() =>
  workspace.handOversOf(list.id).flatMap((handOver) => {
    const trouble = handOver.isPaused ? null : outside.trouble(handOver)
    const name = handOver.target?.name ?? workspace.connection(handOver.connection)?.name ?? ''
    return trouble === null ? [] : [{ id: handOver.id, name }]
  }),
)
</script>

<template>
  <p class="summary">
    <template v-if="counts">
      <span
        ><b>{{ counts.confirmed.toLocaleString('en-GB') }}</b> on the list</span
      >
      <span v-if="counts.waiting > 0"
        ><b>{{ counts.waiting.toLocaleString('en-GB') }}</b> to confirm</span
      >
      <span v-if="gone > 0" class="quiet">{{ gone.toLocaleString('en-GB') }} gone</span>
    </template>
    <!-- Until everybody is read, none of them is known. -->
    <span class="quiet">{{ week.words }}</span>
    <RouterLink v-for="{ id, name } in stuck" :key="id" class="problem" :to="{ query: { view: 'onward' } }"
      >Handing on to {{ name }} is stuck</RouterLink
    >
  </p>
</template>

<style scoped>
.summary {
  display: flex;
  flex-wrap: wrap;
  gap: 0 var(--gap-4);
  margin: var(--gap-1) 0 0;
}
</style>

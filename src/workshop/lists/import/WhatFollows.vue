<script setup lang="ts">
import { computed } from 'vue'
import type { List } from '#core/list'
import { placeOf } from '#core/connection'
import { useWorkspace } from '../../data'
import { peopleCount } from '../people-count'
import { broughtWords } from './brought-words'
import type { DryRun } from './import-in-hand'

/** What comes of bringing these people in, here and elsewhere. */
const { dry, list, asksByMail } = defineProps<{ dry: DryRun; list: List; asksByMail: boolean }>()
const workspace = useWorkspace()

const changed = computed(() => dry.counts.changed + dry.counts.off)
const mail = computed(() => {
  const { waiting } = dry.statuses
  if (waiting === 0) return 'No mail goes to anybody.'
  return asksByMail
    ? `${peopleCount(waiting)} ${waiting === 1 ? 'gets' : 'get'} the mail to confirm. Nobody else gets any.`
    : `No mail goes to anybody; ${peopleCount(waiting)} who ${waiting === 1 ? 'has' : 'have'} to confirm ${waiting === 1 ? 'is' : 'are'} not asked.`
})
/** Where the list goes on to, with how many go along. */
const onward = computed(() =>
  workspace.handOversOf(list.id).flatMap((handOver) => {
    const connection = workspace.connection(handOver.connection)
    if (connection === null) return []
    const going =
      dry.statuses.confirmed + (handOver.moment === 'joined' ? dry.statuses.waiting : 0) + dry.counts.changed
    const name = handOver.target === null ? connection.name : `${handOver.target.name}, ${placeOf(connection.way)}`
    return [{ id: handOver.id, name, going, off: dry.counts.off, isPaused: handOver.isPaused }]
  }),
)
</script>

<template>
  <section class="follows" aria-labelledby="follows-title">
    <h2 id="follows-title">What follows</h2>
    <ul>
      <li>{{ broughtWords({ statuses: dry.statuses, changed }) }}.</li>
      <li>{{ mail }}</li>
      <li v-for="{ id, name, going, off, isPaused } in onward" :key="id">
        {{ peopleCount(going) }} {{ going === 1 ? 'goes' : 'go' }} on to “{{ name }}”<template v-if="off > 0"
          >, {{ peopleCount(off) }} {{ off === 1 ? 'is' : 'are' }} taken off there</template
        >{{ isPaused ? ', once it is no longer paused' : '' }}.
      </li>
      <li v-if="onward.length === 0">This list is handed on nowhere.</li>
    </ul>
  </section>
</template>

<style scoped>
.follows {
  display: grid;
  gap: var(--gap-2);
}
ul {
  display: grid;
  gap: var(--gap-1);
  margin: 0;
  padding-left: 1.2em;
}
li::first-letter {
  text-transform: uppercase;
}
</style>

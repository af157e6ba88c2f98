<script setup lang="ts">
import { computed } from 'vue'
import type { FormId } from '#core/ids'
import { shownMoment } from '../controls'
import { database, syncedId, useLive } from '../data'
import { useKeyNames, usePresence } from '../sync'

/** Who else has this form open now, and who changed it last, where that was not this browser. */
const { form } = defineProps<{ form: FormId }>()
const others = usePresence(() => `form ${form}`)
const names = useKeyNames()
const synced = useLive(() => database.synced.get(syncedId('form', form)), undefined, [() => form])
const changed = computed(() => {
  const name = names.nameOf(synced.value?.by)
  const at = synced.value?.changedAt
  return name === null || at === undefined
    ? null
    : `Last changed by ${name}, ${shownMoment(new Date(at).toISOString())}`
})
const listed = new Intl.ListFormat('en')
</script>

<template>
  <p v-if="others.length > 0" class="who here" role="status">
    <b>{{ listed.format(others) }}</b> {{ others.length === 1 ? 'has' : 'have' }} this form open too. Changes to
    different parts are both kept.
  </p>
  <p v-else-if="changed" class="who">{{ changed }}</p>
</template>

<style scoped>
.who {
  margin: 0;
  color: var(--quiet);
  font-size: var(--text-s);
}
.here {
  color: var(--ink);
}
.here::before {
  content: '';
  display: inline-block;
  width: 8px;
  height: 8px;
  margin-inline-end: var(--gap-2);
  border-radius: 50%;
  background: var(--moss);
}
</style>

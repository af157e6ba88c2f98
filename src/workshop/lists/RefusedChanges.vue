<script setup lang="ts">
import { ElButton } from 'element-plus'
import type { ListId, MemberId } from '#core/ids'
import { database, useLive } from '../data'

/** Changes to people that the receiver refused, until their owner has read why: of a list, or of one person on it. */
const { list, member } = defineProps<{ list: ListId; member?: MemberId }>()
const refused = useLive(
  () =>
    database.commands
      .filter(
        ({ refusal, command }) =>
          refusal !== null && command.list === list && (member === undefined || command.member === member),
      )
      .toArray(),
  [],
  [() => list, () => member],
)
</script>

<template>
  <ul v-if="refused.length > 0" role="alert">
    <li v-for="one in refused" :key="one.id" class="row">
      <span>Not done: {{ one.refusal?.message }}</span>
      <ElButton text @click="database.commands.delete(one.id)">Understood</ElButton>
    </li>
  </ul>
</template>

<style scoped>
ul {
  margin: 0;
  padding: var(--gap-2) var(--gap-4);
  border-inline-start: 4px solid var(--raspberry);
  background: var(--raspberry-wash);
  list-style: none;
}
</style>

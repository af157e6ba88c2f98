<script setup lang="ts">
import { ElButton } from 'element-plus'
import { shallowRef, watch } from 'vue'
import { RouterLink } from 'vue-router'
import type { HandedShown } from '#core/api'
import type { Member } from '#core/list'
import { shownMoment } from '../../controls'
import { useWorkspace } from '../../data'
import { useOutside } from '../../connections'

/** What of a person went where, when, and what was answered. */
const { member } = defineProps<{ member: Member }>()
const workspace = useWorkspace()
const outside = useOutside()
const rows = shallowRef<HandedShown[]>([])
watch(
  [() => member.id, () => member.revision, () => outside.state],
  async () => {
    if (workspace.handOversOf(member.list).length === 0) return
    rows.value = (await outside.client?.handedOf(member.id).catch(() => null))?.handed ?? rows.value
  },
  { immediate: true },
)
const words = {
  there: 'is there',
  'to-confirm': 'was accepted, to confirm there',
  off: 'was taken off there',
  refused: 'was refused there',
}
const nameOf = (id: HandedShown['handOver']) => {
  const handOver = workspace.handOver(id)
  return (
    handOver?.target?.name ?? (handOver && workspace.connection(handOver.connection)?.name) ?? 'a place that is gone'
  )
}

async function again(handOver: HandedShown['handOver']): Promise<void> {
  await outside.client?.handOverAgain(handOver, [member.id])
  await outside.look()
}
</script>

<template>
  <template v-if="rows.length > 0">
    <h2>Handed on</h2>
    <ul>
      <li v-for="row in rows" :key="row.handOver">
        <RouterLink :to="{ name: 'hand-over', params: { id: member.list, handOver: row.handOver } }">{{
          nameOf(row.handOver)
        }}</RouterLink>
        <span :class="{ problem: row.state === 'refused' }">{{ words[row.state] }}</span>
        <span class="quiet small">{{ shownMoment(new Date(row.at).toISOString()) }} · {{ row.said }}</span>
        <ElButton v-if="row.state === 'refused'" size="small" @click="again(row.handOver)">Try again</ElButton>
      </li>
    </ul>
  </template>
</template>

<style scoped>
ul {
  display: grid;
  gap: var(--gap-2);
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  flex-wrap: wrap;
  gap: var(--gap-2);
  align-items: baseline;
}
</style>

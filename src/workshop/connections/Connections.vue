<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import type { ConnectionId } from '#core/ids'
import { placeOf } from '#core/connection'
import { useWorkspace } from '../data'
import { troubleOf, useOutside } from '.'
import ConnectionSheet from './ConnectionSheet.vue'
import KeysFile from './KeysFile.vue'
import Page from '../controls/Page.vue'

/** Outside services that lists are handed on to: each with its key, how it stands, and which lists go by it. */
const props = defineProps<{ id?: string }>()
const workspace = useWorkspace()
const outside = useOutside()
const chosen = computed(() =>
  props.id === undefined || props.id === '' ? null : workspace.connection(props.id as ConnectionId),
)
const rows = computed(() =>
  workspace.connections.map((connection) => ({
    connection,
    trouble: troubleOf(outside.connection(connection.id), connection),
    lists: workspace.handOvers.filter((one) => one.connection === connection.id).length,
  })),
)
</script>

<template>
  <Page class="connections" title="Connections">
    <template #actions>
      <KeysFile v-if="rows.length > 0 && outside.client" />
    </template>
    <p v-if="rows.length === 0" class="quiet">
      There is none yet. One is made when a list is handed on: open a
      <RouterLink :to="{ name: 'lists' }">list</RouterLink>
      and press “Hand this list on”.
    </p>
    <ul v-else>
      <li v-for="{ connection, trouble, lists } in rows" :key="connection.id" class="sheet">
        <div class="facts">
          <RouterLink :to="{ name: 'connections', params: { id: connection.id } }">{{ connection.name }}</RouterLink>
          <span class="quiet small">{{ placeOf(connection.way) }}</span>
          <span v-if="trouble" class="problem small">{{ trouble }}</span>
          <span v-else-if="lists > 0 && outside.connection(connection.id)" class="small well">All goes well.</span>
          <span class="quiet small lists">{{
            lists === 1 ? '1 list is handed on by it' : `${lists} lists are handed on by it`
          }}</span>
          <RouterLink
            v-if="chosen?.id !== connection.id"
            v-slot="{ navigate }"
            custom
            :to="{ name: 'connections', params: { id: connection.id } }"
          >
            <ElButton size="small" @click="navigate()">Look at it</ElButton>
          </RouterLink>
        </div>
        <ConnectionSheet v-if="chosen?.id === connection.id" :key="connection.id" :connection="connection" />
      </li>
    </ul>
  </Page>
</template>

<style scoped>
.connections {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-4);
}
p {
  margin: 0;
}
ul {
  display: grid;
  gap: var(--gap-3);
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  gap: var(--gap-4);
  padding: var(--gap-3) var(--gap-4);
}
.facts {
  display: flex;
  flex-wrap: wrap;
  gap: var(--gap-3);
  align-items: center;
}
.well {
  color: var(--moss);
}
.lists {
  margin-inline-start: auto;
}
</style>

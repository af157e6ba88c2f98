<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed, ref } from 'vue'
import { RouterLink, useRoute, useRouter } from 'vue-router'
import type { ConnectionId } from '#core/ids'
import { placeOf } from '#core/connection'
import { useWorkspace } from '../data'
import { troubleOf, useOutside } from '.'
import { failedWords, useFailedConnections } from '../rehearsal/failed-connections'
import Changes from '../controls/Changes.vue'
import ConnectionSheet from './ConnectionSheet.vue'
import KeysFile from './KeysFile.vue'
import Labelled from '../controls/Labelled.vue'
import Page from '../controls/Page.vue'
import Select from '../controls/Select.vue'

/** Outside services that lists are handed on to: each with its key, how it stands, and which lists go by it. */
const props = defineProps<{ id?: string }>()
const workspace = useWorkspace()
const outside = useOutside()
const router = useRouter()
const route = useRoute()
const isChoosing = ref(route.query.make === 'yes')
const lists = computed(() => workspace.lists.map(({ id, name }) => ({ value: id as string, label: name })))
const list = ref(workspace.lists.length === 1 ? (workspace.lists[0]!.id as string) : '')
const failed = useFailedConnections()
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
      <span class="row">
        <KeysFile v-if="rows.length > 0 && outside.client" />
        <Changes>
          <ElButton v-if="lists.length > 0" type="primary" @click="isChoosing = !isChoosing"
            >Make a connection</ElButton
          >
        </Changes>
      </span>
    </template>
    <div v-if="isChoosing || (rows.length === 0 && lists.length > 0)" class="sheet which">
      <Labelled label="Which list is handed on by it?" hint="Others can go by it later.">
        <Select v-model="list" :options="lists" placeholder="Choose a list" />
      </Labelled>
      <ElButton type="primary" :disabled="list === ''" @click="router.push({ name: 'hand-on', params: { id: list } })"
        >Go on</ElButton
      >
    </div>
    <p v-if="rows.length === 0" class="quiet">
      There is none yet. By a connection a list’s people are handed on to where your letters are sent: a service with a
      key, its form, a program of yours, or a file.
      <template v-if="lists.length === 0">First make a <RouterLink :to="{ name: 'lists' }">list</RouterLink>.</template>
    </p>
    <ul v-if="rows.length > 0">
      <li v-for="{ connection, trouble, lists } in rows" :key="connection.id" class="sheet">
        <div class="facts">
          <RouterLink :to="{ name: 'connections', params: { id: connection.id } }">{{ connection.name }}</RouterLink>
          <span class="quiet small">{{ placeOf(connection.way) }}</span>
          <span v-if="trouble" class="problem small">{{ trouble }}</span>
          <span v-else-if="failed.get(connection.id)" class="problem small">{{
            failedWords(failed.get(connection.id)!)
          }}</span>
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
        <Changes>
          <ConnectionSheet v-if="chosen?.id === connection.id" :key="connection.id" :connection="connection" />
        </Changes>
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
.which {
  display: grid;
  grid-template-columns: minmax(0, 420px) auto;
  gap: var(--gap-3);
  align-items: start;
  justify-content: start;
  padding: var(--gap-3) var(--gap-4);
}
/* Beside the field, not its label. */
.which .el-button {
  margin-top: 28px;
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

<script setup lang="ts">
import { Pause, Play, Trash2 } from '@lucide/vue'
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import type { HandOverId, ListId } from '#core/ids'
import { abilitiesOf, placeOf, serviceOf } from '#core/connection'
import { useWorkspace } from '../data'
import Changes from '../controls/Changes.vue'
import Nowhere from '../Nowhere.vue'
import { useNotices } from '../notices'
import { useTitle } from '../title'
import Comparing from './Comparing.vue'
import FieldChange from './FieldChange.vue'
import FirstHandOver from './FirstHandOver.vue'
import { troubleOf, useOutside } from '.'
import { useReceiver } from '../sync'
import RefusedPeople from './RefusedPeople.vue'
import TargetChange from './TargetChange.vue'
import Page from '../controls/Page.vue'

/** One list carried on to one place: how it stands, who was refused, and both ends compared. */
const props = defineProps<{ id: string; handOver: string }>()
const workspace = useWorkspace()
const outside = useOutside()
const notices = useNotices()
const receiver = useReceiver()
const router = useRouter()
const list = computed(() => workspace.list(props.id as ListId))
const handOver = computed(() => workspace.handOver(props.handOver as HandOverId))
const connection = computed(() => (handOver.value === null ? null : workspace.connection(handOver.value.connection)))
const standing = computed(() => (handOver.value === null ? null : outside.handOver(handOver.value.id)))
const connected = computed(() => (connection.value === null ? null : outside.connection(connection.value.id)))
const trouble = computed(() => (connection.value === null ? null : troubleOf(connected.value, connection.value)))
const title = computed(() =>
  connection.value === null ? null : (handOver.value?.target?.name ?? connection.value.name),
)
useTitle(() => title.value)

const isListGone = computed(() => {
  const changed = standing.value?.changed ?? null
  return connected.value?.halted?.means === 'list-gone' || (changed !== null && changed.listName === undefined)
})

async function rename(name: string): Promise<void> {
  const before = handOver.value!
  await workspace.keepHandOver({ ...before, target: { ...before.target!, name } })
  await receiver.tell('handOver', before.id)
  await outside.look()
  notices.done(`It is called “${name}” here too.`, () => workspace.keepHandOver(before))
}

async function pause(isPaused: boolean): Promise<void> {
  await workspace.keepHandOver({ ...handOver.value!, isPaused })
  await receiver.tell('handOver', handOver.value!.id)
  if (!isPaused) await goOn()
  notices.done(isPaused ? 'Nobody goes there for now. What happens meanwhile is kept.' : 'What waited goes there now.')
}

async function remove(): Promise<void> {
  const undo = await workspace.removeHandOver(handOver.value!.id)
  await router.push({ name: 'list', params: { id: props.id } })
  notices.done('The list is not handed on there any more. Who is there stays there.', undo)
}

async function goOn(): Promise<void> {
  await outside.client?.goOnWith(connection.value!.id)
  await outside.look()
}
</script>

<template>
  <Nowhere v-if="workspace.isLoaded && (list === null || handOver === null || connection === null)" />
  <Page v-else-if="list && handOver && connection" class="whole" :title="title ?? ''">
    <template #above
      ><RouterLink :to="{ name: 'list', params: { id: list.id } }">{{ list.name }}</RouterLink> is handed on
      to</template
    >
    <template #below
      ><p class="quiet">
        {{ placeOf(connection.way) }}, by
        <RouterLink :to="{ name: 'connections', params: { id: connection.id } }">{{ connection.name }}</RouterLink>;
        {{ handOver.moment === 'confirmed' ? 'once they are on the list for good' : 'as soon as they sign up'
        }}{{ handOver.sendsTags && abilitiesOf(connection.way).takesTags ? ', with their tags' : '' }}
      </p></template
    >
    <template #actions>
      <span class="row">
        <Changes>
          <ElButton @click="pause(!handOver.isPaused)"
            ><component :is="handOver.isPaused ? Play : Pause" :size="16" /><span>{{
              handOver.isPaused ? 'Go on' : 'Pause'
            }}</span></ElButton
          >
          <ElButton @click="remove()"><Trash2 :size="16" /><span>Hand on no more</span></ElButton>
        </Changes>
      </span>
    </template>
    <div v-if="trouble && !handOver.isPaused" class="sheet told" role="alert">
      <p class="problem">{{ trouble }}</p>
      <div class="row">
        <Changes>
          <ElButton type="primary" @click="goOn()">Try again now</ElButton>
        </Changes>
        <RouterLink :to="{ name: 'connections', params: { id: connection.id } }">Look at the connection</RouterLink>
      </div>
    </div>
    <div v-else-if="isListGone" class="sheet told" role="alert">
      <p class="problem">Its list is not there any more.</p>
    </div>
    <div v-if="standing?.changed?.listName && handOver.target" class="sheet told">
      <p>
        “{{ handOver.target.name }}” is called “{{ standing.changed.listName }}” there now. People go into it as before.
      </p>
      <Changes>
        <ElButton class="start" @click="rename(standing.changed.listName)">Call it so here too</ElButton>
      </Changes>
    </div>
    <Changes>
      <TargetChange
        v-if="isListGone && abilitiesOf(connection.way).canBeAsked"
        :hand-over="handOver"
        :connection="connection"
      />
    </Changes>
    <dl v-if="standing" class="counts">
      <div>
        <dt>there</dt>
        <dd>{{ standing.there }}</dd>
      </div>
      <div v-if="standing['to-confirm'] > 0">
        <dt>accepted, to confirm there</dt>
        <dd>{{ standing['to-confirm'] }}</dd>
      </div>
      <div>
        <dt>on their way</dt>
        <dd>{{ standing.waiting }}</dd>
      </div>
      <div>
        <dt>taken off there</dt>
        <dd>{{ standing.off }}</dd>
      </div>
      <div :class="{ problem: standing.refused > 0 }">
        <dt>refused</dt>
        <dd>{{ standing.refused }}</dd>
      </div>
    </dl>
    <Changes>
      <FirstHandOver
        v-if="abilitiesOf(connection.way).canBeAsked"
        :list="list"
        :hand-over="handOver"
        :connection="connection"
      />
    </Changes>
    <RefusedPeople v-if="standing && standing.refused > 0" :list="list" :hand-over="handOver" />
    <template v-if="abilitiesOf(connection.way).canBeAsked">
      <Changes>
        <FieldChange :list="list" :hand-over="handOver" :connection="connection" />
        <Comparing
          v-if="serviceOf(connection.way)?.requests.members"
          :list="list"
          :hand-over="handOver"
          :connection="connection"
        />
      </Changes>
    </template>
  </Page>
</template>

<style scoped>
.whole {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-5);
}
.page-head p,
.told p {
  margin: 0;
}
.told {
  display: grid;
  gap: var(--gap-2);
  padding: var(--gap-3) var(--gap-4);
}
.start {
  justify-self: start;
}
.counts {
  display: flex;
  flex-wrap: wrap;
  gap: var(--gap-6);
  margin: 0;
}
.counts div {
  display: flex;
  flex-direction: column-reverse;
}
dt {
  font-size: var(--text-s);
}
dd {
  margin: 0;
  font-size: 1.5rem;
  font-variant-numeric: tabular-nums;
  line-height: 1.1;
}
</style>

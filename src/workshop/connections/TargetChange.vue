<script setup lang="ts">
import { ElButton, ElRadio, ElRadioGroup } from 'element-plus'
import { ref, shallowRef } from 'vue'
import type { Connection, HandOver, TheirList } from '#core/connection'
import { useWorkspace } from '../data'
import { useNotices } from '../notices'
import { reasonFor, useOutside } from '.'
import { useReceiver } from '../sync'
import { peopleCount } from '../lists'

/** Another of a service's lists, in place of one that is there no more. */
const { handOver, connection } = defineProps<{ handOver: HandOver; connection: Connection }>()
const workspace = useWorkspace()
const outside = useOutside()
const receiver = useReceiver()
const notices = useNotices()
const lists = shallowRef<TheirList[] | null>(null)
const problem = ref<string | null>(null)
const isBusy = ref(false)

async function look(): Promise<void> {
  const { way } = connection
  if (way.kind !== 'api' || outside.client === null) return
  isBusy.value = true
  try {
    const asked = await outside.client.askService({
      connection: connection.id,
      way,
      what: 'lists',
      values: {},
    })
    problem.value = asked.means === 'done' ? null : reasonFor(asked)
    lists.value = asked.means === 'done' ? asked.lists : null
  } catch (error) {
    problem.value = error instanceof Error ? error.message : String(error)
  } finally {
    isBusy.value = false
  }
}

async function choose({ id, name }: TheirList): Promise<void> {
  const before = handOver
  await workspace.keepHandOver({ ...handOver, target: { id, name } })
  await receiver.tell('handOver', handOver.id)
  await outside.client?.goOnWith(connection.id).catch(() => null)
  await outside.look()
  lists.value = null
  notices.done(`From now on people go into “${name}”.`, () => workspace.keepHandOver(before))
}
</script>

<template>
  <div class="target">
    <ElButton v-if="lists === null" class="start" :loading="isBusy" @click="look()"
      >Choose another of its lists</ElButton
    >
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <p v-if="lists?.length === 0" class="problem">There is no list there now.</p>
    <ElRadioGroup v-if="lists && lists.length > 0" :model-value="handOver.target?.id ?? ''" aria-label="Its lists">
      <ElRadio v-for="list in lists" :key="list.id" :value="list.id" border @change="choose(list)"
        >{{ list.name }}
        <span v-if="list.count !== null" class="quiet small">{{ peopleCount(list.count) }}</span></ElRadio
      >
    </ElRadioGroup>
  </div>
</template>

<style scoped>
.target {
  display: grid;
  gap: var(--gap-2);
}
.start {
  justify-self: start;
}
p {
  margin: 0;
}
</style>

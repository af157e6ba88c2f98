<script setup lang="ts">
import { ElButton, ElCheckbox, ElCheckboxGroup } from 'element-plus'
import { computed, ref } from 'vue'
import { type Connection, type Way, webhookEvents, type WebhookEvent } from '#core/connection'
import CopiedLine from '../controls/CopiedLine.vue'
import Labelled from '../controls/Labelled.vue'
import { useWorkspace } from '../data'
import { newWebhookSecret, useOutside } from '.'
import { useReceiver } from '../sync'

/** What an address is told of, and the secret that it is signed with. */
const { connection, way } = defineProps<{ connection: Connection; way: Extract<Way, { kind: 'webhook' }> }>()
const workspace = useWorkspace()
const outside = useOutside()
const receiver = useReceiver()
const secret = ref<string | null>(null)
const problem = ref<string | null>(null)
const isBusy = ref(false)

const events = computed(() => (way.events.length === 0 ? [...webhookEvents] : way.events))

async function choose(chosen: WebhookEvent[]): Promise<void> {
  const all = chosen.length === webhookEvents.length
  await workspace.keepConnection({ ...connection, way: { ...way, events: all ? [] : [...chosen] } })
  await receiver.tell('connection', connection.id)
}

async function tellMany(takesMany: boolean): Promise<void> {
  await workspace.keepConnection({ ...connection, way: { ...way, takesMany } })
  await receiver.tell('connection', connection.id)
}

async function change(): Promise<void> {
  if (outside.client === null) return
  isBusy.value = true
  problem.value = null
  const made = newWebhookSecret()
  try {
    await outside.client.keepKey(connection, made)
    secret.value = made
    await outside.look()
  } catch (error) {
    problem.value = error instanceof Error ? error.message : String(error)
  } finally {
    isBusy.value = false
  }
}
</script>

<template>
  <Labelled label="What it is told of">
    <ElCheckboxGroup
      class="events"
      :model-value="events"
      :min="1"
      aria-label="What it is told of"
      @update:model-value="choose($event as WebhookEvent[])"
    >
      <ElCheckbox v-for="event in webhookEvents" :key="event" :value="event" :label="event" />
    </ElCheckboxGroup>
  </Labelled>
  <Labelled
    label="How it is told"
    hint="For many people at once. Its receiver has to read messages of the type “member.events”, whose “data.events” lists what each would be told."
  >
    <ElCheckbox :model-value="way.takesMany === true" @change="tellMany($event === true)">
      Up to a hundred events in one message
    </ElCheckbox>
  </Labelled>
  <Labelled
    v-if="secret"
    label="The new secret"
    hint="Copy it now: it is not shown again. For a day each message is signed with the one before as well."
  >
    <CopiedLine :value="secret" what="secret" />
  </Labelled>
  <div v-else>
    <ElButton :loading="isBusy" @click="change()">Make a new secret</ElButton>
  </div>
  <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
</template>

<style scoped>
.events {
  display: flex;
  flex-wrap: wrap;
  gap: 0 var(--gap-5);
}
p {
  margin: 0;
}
</style>

<script setup lang="ts">
import { Download, Trash2 } from '@lucide/vue'
import { ElButton, ElCheckbox } from 'element-plus'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { abilitiesOf, serviceOf, type Connection, keyProblem } from '#core/connection'
import { handToDownloads } from '../controls'
import CopiedLine from '../controls/CopiedLine.vue'
import Labelled from '../controls/Labelled.vue'
import TypedInput from '../controls/TypedInput.vue'
import { useWorkspace } from '../data'
import { reasonFor, useOutside } from '.'
import { useNotices } from '../notices'
import { noteMended, useRehearseAgain } from '../rehearsal/again'
import { useFailedConnections } from '../rehearsal/failed-connections'
import KeyInput from './KeyInput.vue'
import StepByStep from './StepByStep.vue'
import WebhookSheet from './WebhookSheet.vue'

/** One connection: its label, its key, where it can tell of who left, and its service file tried step by step. */
const { connection } = defineProps<{ connection: Connection }>()
const workspace = useWorkspace()
const outside = useOutside()
const notices = useNotices()
const router = useRouter()
const again = useRehearseAgain()
const failed = useFailedConnections()
const standing = computed(() => outside.connection(connection.id))
const service = computed(() => serviceOf(connection.way))
const takesKey = computed(() => service.value !== null && service.value.key.way !== 'oauth')
const key = ref('')
const isBusy = ref(false)
const problem = ref<string | null>(null)

/** A key is kept only once the service takes it. */
async function keepKey(): Promise<void> {
  const { way } = connection
  if (way.kind !== 'api' || outside.client === null) return
  problem.value = keyProblem(key.value.trim())
  if (problem.value !== null) return
  isBusy.value = true
  try {
    const what = way.service.requests.account === undefined ? 'lists' : 'account'
    const asked = await outside.client.askService({
      connection: connection.id,
      way,
      key: key.value.trim(),
      what,
      values: {},
    })
    if (asked.means !== 'done') {
      problem.value = reasonFor(asked)
      return
    }
    await outside.client.keepKey(connection, key.value.trim())
    key.value = ''
    await outside.look()
    noteMended(connection.id, 'its key was changed')
    const spots = workspace.spots.filter(({ id }) => failed.value.get(connection.id)?.spots.includes(id))
    notices.done('The new key works, and is kept. What waited goes on.', undefined, undefined, await again.offer(spots))
  } catch (error) {
    problem.value = error instanceof Error ? error.message : String(error)
  } finally {
    isBusy.value = false
  }
}

async function remove(): Promise<void> {
  const undo = await workspace.removeConnection(connection.id)
  await router.push({ name: 'connections' })
  notices.done(`“${connection.name}” is gone, and no list goes by it.`, undo)
}

function saveFile(): void {
  handToDownloads({
    blob: new Blob([`${JSON.stringify(service.value, null, 2)}\n`], { type: 'application/json' }),
    name: `${service.value!.name}.json`,
  })
}
</script>

<template>
  <div class="parts">
    <Labelled label="Label">
      <TypedInput
        :value="connection.name"
        :maxlength="200"
        @change="$event.trim() && workspace.keepConnection({ ...connection, name: $event.trim() })"
      />
    </Labelled>
    <form novalidate v-if="takesKey" class="key" @submit.prevent="keepKey()">
      <KeyInput
        v-model="key"
        :place="service!.key"
        v-bind="
          standing?.key === 'yes' ? { hint: 'One is kept, and never shown. Paste another to take its place.' } : {}
        "
        :problem="problem"
      />
      <ElButton native-type="submit" :loading="isBusy" :disabled="key.trim() === ''">Try and keep it</ElButton>
    </form>
    <WebhookSheet v-if="connection.way.kind === 'webhook'" :connection="connection" :way="connection.way" />
    <Labelled
      v-if="standing && standing.backAddress !== '' && abilitiesOf(connection.way).tellsBack"
      label="Where it can tell of who left or bounced there"
      hint="Give it to the service, if it tells others what happens. Whoever knows this address can take people off your lists."
    >
      <CopiedLine :value="standing.backAddress" what="address" />
    </Labelled>
    <ElCheckbox
      :model-value="connection.isRehearsed"
      label="Rehearsals may send one marked person there, who is taken off again"
      @change="workspace.keepConnection({ ...connection, isRehearsed: $event === true })"
    />
    <StepByStep v-if="connection.way.kind === 'api'" :connection="connection" :way="connection.way" />
    <div class="row">
      <ElButton v-if="service" @click="saveFile()"><Download :size="16" /><span>Save its service file</span></ElButton>
      <ElButton @click="remove()"><Trash2 :size="16" /><span>Take the connection away</span></ElButton>
    </div>
  </div>
</template>

<style scoped>
.parts {
  display: grid;
  gap: var(--gap-4);
}
.parts :deep(.el-form-item) {
  max-width: 640px;
  margin: 0;
}
.key {
  display: grid;
  grid-template-columns: minmax(0, 480px) auto;
  gap: var(--gap-3);
  align-items: start;
  justify-content: start;
}
/* Beside the field, not its label. */
.key .el-button {
  margin-top: 28px;
}
</style>

<script setup lang="ts">
import { ElButton, ElCollapse, ElCollapseItem, ElInput } from 'element-plus'
import { computed, ref, shallowRef } from 'vue'
import type { AskedService } from '#core/api'
import { type Connection, readServiceFile, type RequestName, requestNames, type Way } from '#core/connection'
import Labelled from '../controls/Labelled.vue'
import Select from '../controls/Select.vue'
import { useWorkspace } from '../data'
import { reasonFor, useOutside } from '.'
import { useNotices } from '../notices'

/** A service file written, and tried one request after the other: what was really sent, its key masked, and what came. */
const { connection, way } = defineProps<{ connection: Connection; way: Extract<Way, { kind: 'api' }> }>()
const workspace = useWorkspace()
const outside = useOutside()
const notices = useNotices()
const text = ref(JSON.stringify(way.service, null, 2))
const reading = computed(() => readServiceFile(text.value))
const isChanged = computed(() => text.value !== JSON.stringify(way.service, null, 2))

const words: Record<RequestName, string> = {
  account: 'Who am I',
  lists: 'Which lists are there',
  fields: 'Which fields has a list',
  makeField: 'Make a field',
  find: 'Is somebody there',
  members: 'Who is there, page by page',
  put: 'Add or update somebody',
  change: 'Change who is there already',
  join: 'Put somebody on a list',
  off: 'Take somebody off',
  putMany: 'Add several people at once',
  tags: 'Which tags are there',
  makeTag: 'Make a tag',
}
const what = ref<RequestName>('account')
const offered = computed(() =>
  requestNames
    .filter((name) => reading.value.ok && reading.value.service.requests[name] !== undefined)
    .map((value) => ({ value, label: words[value] })),
)
const list = ref(workspace.handOvers.find((one) => one.connection === connection.id)?.target?.id ?? '')
const email = ref('askbox-trial@trial.example')
const asked = shallowRef<AskedService | null>(null)
const isBusy = ref(false)

async function ask(): Promise<void> {
  if (!reading.value.ok || outside.client === null) return
  isBusy.value = true
  try {
    asked.value = await outside.client.askService({
      connection: connection.id,
      way: { ...way, service: reading.value.service },
      what: what.value,
      values: { list: list.value, email: email.value, fields: {}, tags: [], name: 'Ask Box trial' },
    })
  } catch (error) {
    notices.problem(error instanceof Error ? error.message : String(error))
  } finally {
    isBusy.value = false
  }
}

async function keep(): Promise<void> {
  if (!reading.value.ok) return
  const before = connection
  await workspace.keepConnection({ ...connection, way: { ...way, service: reading.value.service } })
  notices.done('The service is spoken to as the file says now.', () => workspace.keepConnection(before))
}

const sent = computed(() => {
  const request = asked.value?.exchange?.request
  if (request === undefined) return ''
  const headers = Object.entries(request.headers).map(([name, value]) => `${name}: ${value}`)
  return [`${request.method} ${request.address}`, ...headers, '', request.body ?? ''].join('\n').trim()
})
const came = computed(() => {
  const answer = asked.value?.exchange?.answer
  if (answer === null || answer === undefined) return 'Nothing came.'
  let body = answer.body
  try {
    body = JSON.stringify(JSON.parse(answer.body), null, 2)
  } catch {
    // No JSON: as it came.
  }
  return `${answer.status}\n\n${body}`
})
</script>

<template>
  <ElCollapse>
    <ElCollapseItem title="How the service is spoken to, step by step" name="steps">
      <div class="steps">
        <Labelled label="Service file" :problem="reading.ok ? null : reading.message">
          <ElInput v-model="text" class="code" type="textarea" :rows="14" spellcheck="false" />
        </Labelled>
        <div class="tried">
          <Labelled label="Ask it">
            <Select v-model="what" :options="offered" />
          </Labelled>
          <Labelled label="About its list (its id)"><ElInput v-model="list" spellcheck="false" /></Labelled>
          <Labelled label="About the address"><ElInput v-model="email" spellcheck="false" /></Labelled>
          <div class="row">
            <ElButton :loading="isBusy" :disabled="!reading.ok || undefined" @click="ask()">Ask now</ElButton>
            <ElButton v-if="isChanged" type="primary" :disabled="!reading.ok || undefined" @click="keep()"
              >Keep this file</ElButton
            >
          </div>
          <p v-if="asked" :class="{ problem: asked.means !== 'done' }" role="status">
            {{ asked.means === 'done' ? 'Done.' : reasonFor(asked) }}
          </p>
        </div>
        <template v-if="asked">
          <Labelled label="What was sent"
            ><ElInput class="code" :model-value="sent" type="textarea" :rows="9" readonly
          /></Labelled>
          <Labelled label="What came"
            ><ElInput class="code" :model-value="came" type="textarea" :rows="9" readonly
          /></Labelled>
        </template>
      </div>
    </ElCollapseItem>
  </ElCollapse>
</template>

<style scoped>
.steps {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(380px, 100%), 1fr));
  gap: var(--gap-4);
  align-items: start;
}
.steps :deep(.el-form-item) {
  max-width: none;
}
.tried {
  display: grid;
  gap: var(--gap-3);
}
.code :deep(textarea) {
  font-family: var(--mono);
  font-size: var(--text-s);
}
p {
  margin: 0;
}
</style>

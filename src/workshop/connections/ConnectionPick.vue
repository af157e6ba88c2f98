<script setup lang="ts">
import { ElButton, ElInput } from 'element-plus'
import { computed, defineAsyncComponent, onScopeDispose, ref } from 'vue'
import type { ConnectionId } from '#core/ids'
import { abilitiesOf } from '#core/connection'
import Choice from '../controls/Choice.vue'
import Labelled from '../controls/Labelled.vue'
import NumberInput from '../controls/NumberInput.vue'
import Select from '../controls/Select.vue'
import { useWorkspace } from '../data'
import FormCode from './FormCode.vue'
import KeyInput from './KeyInput.vue'
import type { NewHandOver } from './new-hand-over'
import { useOutside } from '.'
import { wayWords } from './way-words'

/** To where a list is handed on: a connection that is there, or a new one with its key. */
const { inHand } = defineProps<{ inHand: NewHandOver }>()
const workspace = useWorkspace()
const outside = useOutside()
const { chosen, kind, service, asked, key, address, isBusy, account, everyMinutes } = inHand

const NEW = 'new'
const options = computed(() => [
  ...workspace.connections.map(({ id, name }) => ({ value: id as string, label: name })),
  { value: NEW, label: 'A new one' },
])
function choose(value: string): void {
  chosen.value = value === NEW ? null : (value as ConnectionId)
  inHand.forget()
}

const ServiceMaking = defineAsyncComponent(() => import('./making/ServiceMaking.vue'))
const ways = (['api', 'form-post', 'webhook', 'file'] as const).map((value) => ({ value, label: wayWords[value].name }))

const OWN = 'own'
const serviceOptions = computed(() => [
  ...outside.services.map(({ name }) => ({ value: name, label: `${name} (pretend)` })),
  { value: OWN, label: 'Another: from what its help page shows' },
])
const shownService = computed(() => {
  if (service.value === null) return isOwn.value ? OWN : ''
  return outside.services.some(({ name }) => name === service.value?.name) ? service.value.name : OWN
})
/** Where no pretend services stand, there is nothing to choose from. */
const isOwn = ref(outside.services.length === 0)
function chooseService(name: string): void {
  inHand.forget()
  isOwn.value = name === OWN
  service.value = outside.services.find((one) => one.name === name) ?? null
}
/** Signing in goes on in a window of its own; when it is over, the key is there. */
const SIGNED_IN_EVERY_MS = 1_500
let waiting: ReturnType<typeof setInterval> | null = null
onScopeDispose(() => waiting !== null && clearInterval(waiting))
async function signIn(): Promise<void> {
  // Opened at once: after an answer it would be a pop-up that browsers hold back.
  const opened = window.open('', '_blank')
  const where = await inHand.signIn()
  if (where === null || opened === null) return
  opened.opener = null
  opened.location.href = where
  if (waiting !== null) clearInterval(waiting)
  waiting = setInterval(() => {
    if (!opened.closed && inHand.account.value === null) void inHand.tryKey()
    else if (waiting !== null) clearInterval(waiting)
  }, SIGNED_IN_EVERY_MS)
}
const isMissing = computed(() => (service.value?.asks ?? []).some(({ name }) => !asked[name]))
</script>

<template>
  <section class="pick" aria-labelledby="to-title">
    <h2 id="to-title">Where to</h2>
    <Choice
      v-if="workspace.connections.length > 0"
      :model-value="chosen ?? NEW"
      name="connection"
      label="Connection"
      :options="options"
      @update:model-value="$event && choose($event)"
    />
    <template v-if="chosen === null">
      <h3>What do you have?</h3>
      <Choice
        v-model="kind"
        name="way"
        label="What do you have?"
        :options="ways"
        @update:model-value="inHand.forget()"
      />
      <p class="quiet small">{{ wayWords[kind].proves }}</p>
      <div v-if="kind === 'api'" class="parts">
        <Labelled label="Service" :hint="service?.about">
          <Select
            :model-value="shownService"
            :options="serviceOptions"
            placeholder="Choose one"
            @update:model-value="chooseService(String($event))"
          />
        </Labelled>
      </div>
      <ServiceMaking v-if="kind === 'api' && isOwn" :in-hand="inHand" />
      <div v-if="kind === 'api'" class="parts">
        <template v-if="service">
          <Labelled v-for="one in service.asks ?? []" :key="one.name" :label="one.label" :hint="one.where">
            <ElInput v-model="asked[one.name]" :placeholder="one.example" spellcheck="false" />
          </Labelled>
          <form novalidate v-if="!inHand.isSignedInto.value" class="key" @submit.prevent="inHand.tryKey()">
            <KeyInput v-model="key" :place="service.key" />
            <ElButton native-type="submit" :loading="isBusy" :disabled="key.trim() === '' || isMissing"
              >Try the key</ElButton
            >
          </form>
          <div v-else class="row">
            <ElButton :disabled="isMissing" @click="signIn()">Sign in at {{ service.name }}</ElButton>
            <ElButton text :loading="isBusy" @click="inHand.tryKey()">I have signed in</ElButton>
          </div>
        </template>
      </div>
      <FormCode v-else-if="kind === 'form-post'" :in-hand="inHand" />
      <div v-else-if="kind === 'webhook'" class="parts">
        <Labelled
          label="Address that is told"
          hint="Each time somebody joins, confirms, changes, leaves, bounces or is erased, a message is posted there, for your own programs (JSON)."
        >
          <ElInput v-model="address" placeholder="https://your-site.example/told" spellcheck="false" />
        </Labelled>
        <Labelled
          label="Secret"
          hint="What is sent is signed with it (Standard Webhooks). Copy it now: it is not shown again."
        >
          <ElInput :model-value="inHand.secret" readonly />
        </Labelled>
      </div>
      <div v-else class="parts">
        <Labelled label="Written anew every so many minutes" :hint="`Into ${outside.state?.folder ?? 'the receiver'}.`">
          <NumberInput :value="everyMinutes" :least="5" :most="10080" @change="everyMinutes = $event ?? 60" />
        </Labelled>
      </div>
    </template>
    <ElButton
      v-else-if="inHand.way.value && abilitiesOf(inHand.way.value).canBeAsked && inHand.lists.value === null"
      class="start"
      :loading="isBusy"
      @click="inHand.tryKey()"
      >Look at its lists</ElButton
    >
    <p v-if="account !== null && inHand.lists.value" class="ok" role="status">
      {{ account === '' ? 'The key works.' : `The key works: it opens “${account}”.` }}
    </p>
  </section>
</template>

<style scoped>
.pick {
  display: grid;
  gap: var(--gap-3);
}
h2,
h3,
p {
  margin: 0;
}
.parts {
  display: grid;
  gap: var(--gap-3);
  max-width: 560px;
}
.parts :deep(.el-form-item) {
  margin: 0;
}
.key {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: var(--gap-3);
  align-items: start;
}
/* Beside the field, not its label. */
.key .el-button {
  margin-top: 28px;
}
.start {
  justify-self: start;
}
.ok {
  color: var(--moss);
}
</style>

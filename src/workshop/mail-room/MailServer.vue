<script setup lang="ts">
import type { MailState } from '#core/api'
import { ElButton, ElInput } from 'element-plus'
import { computed, reactive, ref, watch } from 'vue'
import { clientFor } from '../client'
import Labelled from '../controls/Labelled.vue'
import NumberInput from '../controls/NumberInput.vue'
import Select from '../controls/Select.vue'
import { useReceiver } from '../sync'
import { useNotices } from '../notices'

/** By which server mail goes, how fast, and signed with which key. */
const { state } = defineProps<{ state: MailState }>()
const emit = defineEmits<{ changed: [state: MailState] }>()

const receiver = useReceiver()
const notices = useNotices()
const client = computed(() => (receiver.pairing === null ? null : clientFor(receiver.pairing)))
const typed = reactive({
  host: '',
  port: 587,
  security: 'starttls' as 'tls' | 'starttls' | 'none',
  user: '',
  password: '',
})
watch(
  () => state.server,
  (server) =>
    server &&
    Object.assign(typed, { host: server.host, port: server.port, security: server.security, user: server.user }),
  { immediate: true },
)
const isFixed = computed(() => state.from === 'environment')
const shapes = [
  { value: 'submission', label: 'The usual one: port 587, encrypted after the greeting' },
  { value: 'tls', label: 'Encrypted from the start: port 465' },
  { value: 'local', label: 'A server on the same computer: port 25' },
]
function startFrom(shape: string): void {
  if (shape === 'submission') Object.assign(typed, { port: 587, security: 'starttls' })
  if (shape === 'tls') Object.assign(typed, { port: 465, security: 'tls' })
  if (shape === 'local') Object.assign(typed, { host: 'localhost', port: 25, security: 'none' })
}

const problem = ref('')
async function keep(): Promise<void> {
  problem.value = ''
  try {
    emit(
      'changed',
      await client.value!.keepMailServer({ ...typed, host: typed.host.trim(), password: typed.password || null }),
    )
    typed.password = ''
    notices.done('The mail server is kept. Send a test to prove it.')
  } catch (error) {
    problem.value = error instanceof Error ? error.message : String(error)
  }
}

const to = ref('')
const isBusy = ref(false)
const said = ref<{ ok: boolean; said: string } | null>(null)
async function test(): Promise<void> {
  isBusy.value = true
  try {
    said.value = await client.value!.sendTestMail(to.value, null)
  } catch (error) {
    said.value = { ok: false, said: error instanceof Error ? error.message : String(error) }
  } finally {
    isBusy.value = false
  }
}

async function pace(part: 'minute' | 'hour' | 'day', value: number | null): Promise<void> {
  if (value !== null) emit('changed', await client.value!.keepPace({ ...state.pace, [part]: value }, state.isStopped))
}

const domain = ref('')
async function makeKey(wanted: string | null): Promise<void> {
  problem.value = ''
  try {
    emit('changed', await client.value!.keepDkim(wanted))
  } catch (error) {
    problem.value = error instanceof Error ? error.message : String(error)
  }
}
</script>

<template>
  <div class="columns">
    <section class="group" aria-labelledby="server-title">
      <h2 id="server-title">Server</h2>
      <p v-if="isFixed" class="quiet">
        {{ state.isStandIn ? 'Mail goes to the stand-in mailbox: nothing leaves this computer.' : '' }} The server
        {{ state.server?.host }} was set where Ask Box was started, and is changed there (setting <code>SMTP_URL</code>,
        port {{ state.server?.port }}).
      </p>
      <form novalidate v-else class="group" @submit.prevent="keep">
        <Labelled label="Start from">
          <Select
            model-value=""
            :options="shapes"
            placeholder="A known kind of server"
            @update:model-value="startFrom(String($event))"
          />
        </Labelled>
        <Labelled label="Server" hint="Your mail provider names it, often smtp. and a domain.">
          <ElInput v-model="typed.host" placeholder="smtp.provider.example" spellcheck="false" />
        </Labelled>
        <Labelled label="Port">
          <NumberInput :value="typed.port" :least="1" :most="65535" @change="typed.port = $event ?? 587" />
        </Labelled>
        <Labelled label="Encryption">
          <Select
            v-model="typed.security"
            :options="[
              { value: 'starttls', label: 'STARTTLS (usual with port 587)' },
              { value: 'tls', label: 'TLS (usual with port 465)' },
              { value: 'none', label: 'None' },
            ]"
          />
        </Labelled>
        <Labelled label="User">
          <ElInput v-model="typed.user" autocomplete="off" spellcheck="false" />
        </Labelled>
        <Labelled
          label="Password"
          :hint="
            state.server?.hasPassword
              ? 'One is kept and never shown. Leave this empty to keep it.'
              : 'Kept, and never shown again.'
          "
        >
          <ElInput v-model="typed.password" type="password" autocomplete="new-password" />
        </Labelled>
        <ElButton type="primary" native-type="submit" class="start">Keep this server</ElButton>
      </form>
      <p v-if="problem" class="problem small" role="alert">{{ problem }}</p>
      <form novalidate class="beside" @submit.prevent="test">
        <ElInput v-model="to" type="email" placeholder="you@your-site.example" aria-label="Send a test to" />
        <ElButton native-type="submit" :loading="isBusy" :disabled="state.server === null || undefined"
          >Send a test</ElButton
        >
      </form>
      <p v-if="said" class="small" :class="{ problem: !said.ok }" role="status">
        {{ said.ok ? 'The mail server took it: look in the inbox.' : `Not sent: ${said.said}` }}
      </p>
    </section>
    <section class="group" aria-labelledby="pace-title">
      <h2 id="pace-title">Pace</h2>
      <p class="quiet small">
        Shared hosting often allows 200 mails an hour, your site’s other mail included. For more than some 2,000 members
        a mail service is the better way.
        {{ state.isStandIn ? 'The stand-in mailbox takes mail as fast as it comes.' : '' }}
      </p>
      <div class="paces">
        <Labelled label="A minute"
          ><NumberInput :value="state.pace.minute" :least="1" @change="pace('minute', $event)"
        /></Labelled>
        <Labelled label="An hour"
          ><NumberInput :value="state.pace.hour" :least="1" @change="pace('hour', $event)"
        /></Labelled>
        <Labelled label="A day"
          ><NumberInput :value="state.pace.day" :least="1" @change="pace('day', $event)"
        /></Labelled>
      </div>
      <h2>Signature</h2>
      <p class="quiet small">
        A signature (DKIM) shows that a mail is really from you: less of it lands in spam. Press once here, then put the
        line that appears where your domain’s records are kept.
      </p>
      <template v-if="state.dkim">
        <p>
          Add a record of the type TXT for <b>{{ state.dkim.domain }}</b>:
        </p>
        <Labelled label="Name"><ElInput :model-value="state.dkim.name" readonly /></Labelled>
        <Labelled label="Value"
          ><ElInput :model-value="state.dkim.value" type="textarea" :rows="5" readonly
        /></Labelled>
        <ElButton class="start" @click="makeKey(null)">Sign no more</ElButton>
      </template>
      <form novalidate v-else class="beside" @submit.prevent="makeKey(domain.trim().toLowerCase())">
        <ElInput v-model="domain" placeholder="your-site.example" aria-label="Domain to sign for" spellcheck="false" />
        <ElButton native-type="submit">Make a key</ElButton>
      </form>
    </section>
  </div>
</template>

<style scoped>
.columns {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(360px, 100%), 1fr));
  gap: var(--gap-6);
  align-items: start;
}
h2 {
  margin: 0;
}
.start {
  justify-self: start;
}
.paces {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: var(--gap-3);
}
.paces :deep(.el-input-number) {
  width: 100%;
}
.group > h2:not(:first-child) {
  margin-top: var(--gap-4);
}
</style>

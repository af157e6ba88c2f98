<script setup lang="ts">
import { ElButton, ElInput } from 'element-plus'
import { computed, ref } from 'vue'
import { addressProblem, completedAddress, type Site, siteHost } from '#core/site'
import Labelled from '../controls/Labelled.vue'
import { useReceiver } from '../sync'
import { saveOnlineGuide } from './online-guide'
import { type ReachFinding, lookAtReceiver } from './reach'

/** Said before anything is built for a real site: visitors' browsers must reach the receiver. The ways, and a test of each. */
const { site, wasReached = false } = defineProps<{
  site: Site
  /** Somebody signed up from there before. */ wasReached?: boolean
}>()
const receiver = useReceiver()
const address = ref('')
const checks = ref<ReachFinding[] | null>(null)
const isBusy = ref(false)
const wrong = ref<string | null>(null)
const origin = computed(() => (checks.value === null ? '' : new URL(completedAddress(address.value)).origin))
const isGood = computed(() => checks.value?.every(({ isGood }) => isGood) ?? false)

async function test(): Promise<void> {
  const typed = completedAddress(address.value)
  wrong.value = addressProblem(typed)
  checks.value = null
  if (wrong.value !== null || receiver.pairing === null) return
  isBusy.value = true
  checks.value = await lookAtReceiver(new URL(typed).origin, receiver.pairing.key, receiver.journal?.id ?? null)
  isBusy.value = false
}
</script>

<template>
  <section class="online" aria-label="Getting online">
    <h3>Not reached by visitors of {{ siteHost(site.address) }}</h3>
    <p>
      Ask Box runs on this computer only. All that you make is kept, and waits until they reach it.
      <template v-if="wasReached">What was counted there is from when visitors reached it.</template>
    </p>
    <ol>
      <li>
        <b>On a server of yours:</b> three commands on a computer with a public name set it up.
        <ElButton link type="primary" @click="saveOnlineGuide">Save how, as a file</ElButton>
      </li>
      <li>
        <b>Somebody runs it for you:</b> open the address that they give you once in this browser. What you made goes
        there by itself.
      </li>
      <li><b>Without a server:</b> bring the form that your list service made for you, as a new form.</li>
    </ol>
    <form novalidate class="row" @submit.prevent="test">
      <Labelled label="Its address, as visitors will reach it" :problem="wrong">
        <ElInput v-model="address" type="url" placeholder="https://forms.example.org" />
      </Labelled>
      <ElButton native-type="submit" :loading="isBusy">Test it</ElButton>
    </form>
    <ul v-if="checks" role="status" class="found">
      <li v-for="one in checks" :key="one.what" :class="{ bad: !one.isGood }">
        <b>{{ one.what }}</b> {{ one.says }}
      </li>
      <li v-if="isGood">
        <b>All is well.</b> Tell whoever looks after the server to start Ask Box with
        <code>ASKBOX_PUBLIC_URL={{ origin }}</code
        >; then the code stands here.
      </li>
    </ul>
  </section>
</template>

<style scoped>
.online {
  display: grid;
  gap: var(--gap-2);
  padding: var(--gap-3);
  border-inline-start: 3px solid var(--raspberry);
  background: var(--sunken);
}
h3,
p {
  margin: 0;
}
ol,
ul {
  display: grid;
  gap: var(--gap-1);
  margin: 0;
  padding-inline-start: 1.2em;
}
form {
  align-items: flex-end;
}
form > .el-form-item {
  flex: 1;
  max-width: 460px;
}
.found {
  padding: 0;
  list-style: none;
}
.found > :not(.bad) b {
  color: var(--moss);
}
.bad b {
  color: var(--raspberry);
}
</style>

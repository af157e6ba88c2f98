<script setup lang="ts">
import { computed, ref } from 'vue'
import { readEmail } from '#core/email'
import Labelled from '../controls/Labelled.vue'
import { shownMoment } from '../controls'
import TypedInput from '../controls/TypedInput.vue'
import { useWorkspace } from '../data'
import { useCare } from './care'

/** A mail to the owner when something broke. */
const workspace = useWorkspace()
const { care, client, set } = useCare()
const wrongAddress = ref<string | null>(null)
function setAddress(text: string): void {
  const address = text.trim()
  wrongAddress.value = address !== '' && typeof readEmail(address) === 'string' ? 'This is no email address.' : null
  if (wrongAddress.value === null) void set(() => client()?.keepAlerts(address))
}
/** Mail of ours goes in the name of a list that has a sender. */
const hasSender = computed(() =>
  workspace.lists.some(({ id }) => (workspace.mail(id)?.published?.senderAddress.trim() ?? '') !== ''),
)
</script>

<template>
  <section id="alerts" class="group" aria-labelledby="alerts-title">
    <h2 id="alerts-title">When something breaks</h2>
    <p>
      You get a mail when a rehearsal that repeats by itself finds a broken line, when mail is refused, when a backup
      could not be made, and when the store is not what was written into it: each once, with what to do.
    </p>
    <template v-if="care !== null">
      <Labelled label="Your address" :problem="wrongAddress" hint="Empty: no such mails. The Desk tells all the same.">
        <TypedInput :value="care.alerts.address" type="email" placeholder="you@mail.example" @change="setAddress" />
      </Labelled>
      <p v-if="care.alerts.address !== '' && !hasSender" class="problem small">
        Such mails go in the name of a list. None has a sender yet: set one at the Mail station of a form, and publish.
      </p>
      <ul v-if="care.alerts.raised.length > 0" class="raised">
        <li v-for="one in care.alerts.raised" :key="one.key">
          <b>{{ one.subject }}</b> <span class="quiet small">{{ shownMoment(new Date(one.at).toISOString()) }}</span>
          <p class="said small">{{ one.text }}</p>
        </li>
      </ul>
    </template>
  </section>
</template>

<style scoped>
.said {
  margin: 0;
  white-space: pre-line;
  overflow-wrap: anywhere;
}
.raised {
  margin: 0;
  padding-inline-start: 1.1em;
}
</style>

<script setup lang="ts">
import type { BackupSettings, CareState } from '#core/api'
import { ElButton, ElCheckbox } from 'element-plus'
import { computed, onMounted, ref, shallowRef } from 'vue'
import { readEmail } from '#core/email'
import { clientFor } from '../client'
import Labelled from '../controls/Labelled.vue'
import NumberInput from '../controls/NumberInput.vue'
import { shownMoment } from '../controls'
import TypedInput from '../controls/TypedInput.vue'
import { useWorkspace } from '../data'
import { useNotices } from '../notices'
import { useReceiver } from '../sync'

/** What the receiver does for its owner by itself: copies every day, and a mail when something broke. */
const receiver = useReceiver()
const workspace = useWorkspace()
const notices = useNotices()
const care = shallowRef<CareState | null>(null)
const isMaking = ref(false)
const wrongAddress = ref<string | null>(null)
const client = () => (receiver.pairing === null ? null : clientFor({ ...receiver.pairing }))
onMounted(
  async () =>
    (care.value =
      (await client()
        ?.care()
        .catch(() => null)) ?? null),
)

async function set(change: () => Promise<CareState> | undefined): Promise<void> {
  try {
    care.value = (await change()) ?? care.value
  } catch (error) {
    notices.problem(`Not set: ${error instanceof Error ? error.message : 'no answer'}`)
  }
}
function setBackups(changes: Partial<BackupSettings>): Promise<void> {
  const { isOn, folder, keep } = care.value!.backups
  return set(() => client()?.keepBackups({ isOn, folder, keep, ...changes }))
}
async function makeNow(): Promise<void> {
  isMaking.value = true
  await set(() => client()?.makeBackup())
  isMaking.value = false
  if (care.value?.backups.problem === null) notices.done('The backup is made, and was read through.')
}
function setAddress(text: string): void {
  const address = text.trim()
  wrongAddress.value = address !== '' && typeof readEmail(address) === 'string' ? 'This is no email address.' : null
  if (wrongAddress.value === null) void set(() => client()?.keepAlerts(address))
}
const inWords = ({ at, bytes, entries }: NonNullable<CareState['backups']['last']>) =>
  `${shownMoment(new Date(at).toISOString())}: ${(bytes / 1_000_000).toFixed(1)} MB with ${entries} ${entries === 1 ? 'event' : 'events'}, read through and whole.`
/** Mail of ours goes in the name of a list that has a sender. */
const hasSender = computed(() =>
  workspace.lists.some(({ id }) => (workspace.mail(id)?.published?.senderAddress.trim() ?? '') !== ''),
)
</script>

<template>
  <section id="backups" class="group" aria-labelledby="care-title">
    <h2 id="care-title">Backups by themselves</h2>
    <p v-if="care === null" class="quiet">Shown when Ask Box answers.</p>
    <template v-else>
      <ElCheckbox
        :model-value="care.backups.isOn"
        label="A copy of everything, every day"
        @change="setBackups({ isOn: Boolean($event) })"
      />
      <p v-if="care.backups.problem" class="problem" role="alert">
        The last one could not be made: {{ care.backups.problem.said }}
      </p>
      <p>
        {{ care.backups.last ? `Last ${inWords(care.backups.last)}` : 'None is made yet.' }}
      </p>
      <div class="fields">
        <Labelled label="Kept in the folder" hint="On the computer where Ask Box runs. Empty: beside its data.">
          <TypedInput
            :value="care.backups.folder"
            :placeholder="care.backups.goesTo"
            @change="setBackups({ folder: $event.trim() })"
          />
        </Labelled>
        <Labelled label="So many of the newest are kept">
          <NumberInput :value="care.backups.keep" :least="1" :most="365" @change="setBackups({ keep: $event ?? 7 })" />
        </Labelled>
      </div>
      <div class="row">
        <ElButton :loading="isMaking" @click="makeNow">Make one now</ElButton>
        <span class="quiet small">It holds people’s addresses: keep the folder as carefully as the list.</span>
      </div>
    </template>
  </section>
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
.fields {
  display: grid;
  grid-template-columns: minmax(0, 2fr) minmax(0, 1fr);
  gap: var(--gap-3);
}
.said {
  margin: 0;
  white-space: pre-line;
  overflow-wrap: anywhere;
}
.raised {
  margin: 0;
  padding-inline-start: 1.1em;
}
@media (max-width: 640px) {
  .fields {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>

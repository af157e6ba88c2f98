<script setup lang="ts">
import Changes from '../controls/Changes.vue'
import BackupSettings from './BackupSettings.vue'
import Alerts from './Alerts.vue'
import DailyBackups from './DailyBackups.vue'
import ConnectedBrowsers from './ConnectedBrowsers.vue'
import ReceiverBrowser from './ReceiverBrowser.vue'
import ReceiverSettings from './ReceiverSettings.vue'
import Choice from '../controls/Choice.vue'
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import { isDemo, usePreferences, useWorkspace, writeSetting } from '../data'
import Indexed from '../controls/Indexed.vue'
import Page from '../controls/Page.vue'
import { useReceiver } from '../sync'

const receiver = useReceiver()
const workspace = useWorkspace()
const preferences = usePreferences()
const scheme = computed({
  get: () => receiver.scheme ?? 'system',
  set: (value) => void writeSetting('scheme', value),
})
const repeats = computed({
  get: () => preferences.preferences?.rehearseEvery ?? 'never',
  set: (value) => void preferences.change({ rehearseEvery: value === 'never' ? undefined : value }),
})
/** The sections, by what one looks for. */
const index = [
  { to: '#backups', name: 'Backups' },
  { to: '#connections', name: 'Connections' },
  ...(isDemo
    ? []
    : [
        { to: '#alerts', name: 'When something breaks' },
        { to: '#browsers', name: 'Who may come in' },
        { to: '#online', name: 'How visitors reach it' },
      ]),
  { to: '#rehearsals', name: 'Rehearsals' },
  { to: '#appearance', name: 'Appearance' },
]
</script>

<template>
  <Page title="Settings">
    <Indexed label="Sections of the settings" :items="index">
      <div class="sections">
        <section id="backups" class="group" aria-labelledby="backup-title">
          <h2 id="backup-title">Backups</h2>
          <BackupSettings />
          <Changes>
            <DailyBackups v-if="!isDemo && !receiver.looksOn" />
          </Changes>
        </section>
        <section id="connections" class="group" aria-labelledby="connections-title">
          <h2 id="connections-title">Connections</h2>
          <p>Outside services that lists are handed on to.</p>
          <p v-if="workspace.connections.length === 0" class="quiet">
            None yet: begin at a list, under “Where it is handed on”.
          </p>
          <ul v-else class="names">
            <li v-for="{ id, name } in workspace.connections" :key="id">
              <RouterLink :to="{ name: 'connections', params: { id } }">{{ name }}</RouterLink>
            </li>
          </ul>
          <p>
            <RouterLink :to="{ name: 'connections' }">All connections, with their keys</RouterLink>
          </p>
        </section>
        <template v-if="!isDemo">
          <Changes>
            <Alerts v-if="!receiver.looksOn" />
          </Changes>
          <ConnectedBrowsers />
          <ReceiverSettings />
        </template>
        <section id="rehearsals" class="group" aria-labelledby="repeat-title">
          <h2 id="repeat-title">Rehearsals</h2>
          <p>
            A rehearsal sends a made-up person the whole way: page, form, answer, mail, list. It can repeat by itself;
            the Desk tells when one fails.
          </p>
          <Changes>
            <Choice
              v-model="repeats"
              name="repeats"
              label="Rehearse by itself"
              :options="[
                { value: 'never', label: 'Never' },
                { value: 'day', label: 'Every day' },
                { value: 'week', label: 'Every week' },
              ]"
            />
          </Changes>
          <ReceiverBrowser />
        </section>
        <section id="appearance" class="group" aria-labelledby="scheme-title">
          <h2 id="scheme-title">Appearance</h2>
          <Choice
            v-model="scheme"
            name="scheme"
            :options="[
              { value: 'system', label: 'As the computer' },
              { value: 'light', label: 'Light' },
              { value: 'dark', label: 'Dark' },
            ]"
          />
        </section>
      </div>
    </Indexed>
  </Page>
</template>

<style scoped>
.sections {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-6);
}
.names {
  display: grid;
  gap: var(--gap-1);
  margin: 0;
  padding: 0;
  list-style: none;
}
</style>

<script setup lang="ts">
import BackupSettings from './BackupSettings.vue'
import CareSettings from './CareSettings.vue'
import ConnectedBrowsers from './ConnectedBrowsers.vue'
import ReceiverBrowser from './ReceiverBrowser.vue'
import ReceiverSettings from './ReceiverSettings.vue'
import Choice from '../controls/Choice.vue'
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import { isDemo, usePreferences, writeSetting } from '../data'
import { useReceiver } from '../sync'

const receiver = useReceiver()
const preferences = usePreferences()
const scheme = computed({
  get: () => receiver.scheme ?? 'system',
  set: (value) => void writeSetting('scheme', value),
})
const repeats = computed({
  get: () => preferences.preferences?.rehearseEvery ?? 'never',
  set: (value) => void preferences.change({ rehearseEvery: value === 'never' ? undefined : value }),
})
</script>

<template>
  <div class="page settings">
    <h1>Settings</h1>
    <BackupSettings />
    <section class="group" aria-labelledby="connections-title">
      <h2 id="connections-title">Connections</h2>
      <p>
        Services that lists are handed on to, with their keys:
        <RouterLink :to="{ name: 'connections' }">look at the connections</RouterLink>.
      </p>
    </section>
    <template v-if="!isDemo">
      <CareSettings />
      <ConnectedBrowsers />
      <ReceiverSettings />
    </template>
    <section class="group" aria-labelledby="repeat-title">
      <h2 id="repeat-title">Rehearsals</h2>
      <ReceiverBrowser />
      <p>
        A rehearsal sends a made-up person the whole way: page, form, answer, mail, list. It can repeat by itself; the
        Desk tells when one fails.
      </p>
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
    </section>
    <section class="group" aria-labelledby="scheme-title">
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
</template>

<style scoped>
.settings {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-6);
  max-width: 820px;
}
</style>

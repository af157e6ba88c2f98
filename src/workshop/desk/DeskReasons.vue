<script setup lang="ts">
import { computed } from 'vue'
import type { Form } from '#core/form'
import { signalWords, type StationState } from '#core/line'
import { stationNames } from '#core/station'
import { useWorkspace } from '../data'
import Curve from '../results/Curve.vue'
import { useRhythm } from '../results/rhythm'

/** What each signal of a form's line says, and how the form does. */
const { form } = defineProps<{ form: Form; line: readonly StationState[] }>()
const workspace = useWorkspace()
const rhythms = useRhythm()
const rhythm = computed(() => rhythms.of(form.id))
const version = computed(() => workspace.latestVersion(form.id)?.number)
</script>

<template>
  <div class="reasons">
    <p class="small">
      <span>{{ version === undefined ? 'Not published' : `Version ${version} is published` }}.</span>
      <span v-if="rhythm?.words"> Sign-ups: {{ rhythm.words }}.</span>
      <Curve v-if="rhythm" :counts="rhythm.last" />
    </p>
    <dl>
      <div v-for="state in line" :key="state.station">
        <dt>{{ stationNames[state.station] }}</dt>
        <dd>
          <b :class="state.signal">{{ signalWords[state.signal] }}</b><span class="quiet">: {{ state.reason }}</span>
        </dd>
      </div>
    </dl>
  </div>
</template>

<style scoped>
.reasons {
  display: grid;
  gap: var(--gap-2);
  padding: var(--gap-2) var(--gap-3) var(--gap-3) 0;
}
p {
  display: flex;
  flex-wrap: wrap;
  gap: 0 var(--gap-3);
  align-items: center;
}
dl {
  display: grid;
  gap: 2px;
  margin: 0;
  font-size: var(--text-s);
}
dl div {
  display: grid;
  grid-template-columns: 64px minmax(0, 1fr);
}
dd {
  margin: 0;
}
.needs-work,
.changed {
  color: var(--raspberry);
}
.proven {
  color: var(--moss);
}
</style>

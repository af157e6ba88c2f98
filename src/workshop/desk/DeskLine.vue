<script setup lang="ts">
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import type { Form } from '#core/form'
import { signalWords } from '#core/line'
import { useLine } from '../line/line'
import { useArrivals, useWorkspace } from '../data'
import { vHint } from '../controls'
import Curve from '../results/Curve.vue'
import { useRhythm } from '../results/rhythm'
import SignalArm from '../line/SignalArm.vue'
import { stationNames } from '#core/station'

/** One form on the Desk: its name, and its line as five signals on a track. */
const { form } = defineProps<{ form: Form }>()

const workspace = useWorkspace()
const { line } = useLine(() => form.id)
const arrivals = useArrivals()
const rhythms = useRhythm()
const joined = computed(() =>
  arrivals.newest === null
    ? null
    : arrivals.of(form.id).filter(({ verdict }) => verdict === 'joined' || verdict === 'confirm-first').length,
)
const rhythm = computed(() => rhythms.of(form.id))
const list = computed(() => workspace.list(form.list)?.name ?? 'no list')
const version = computed(() => workspace.latestVersion(form.id)?.number)
</script>

<template>
  <li class="sheet">
    <div class="about">
      <h2>
        <RouterLink :to="{ name: 'form', params: { id: form.id } }">{{ form.name }}</RouterLink>
      </h2>
      <p class="quiet small">
        Sign-ups go to {{ list }}<br />
        {{ version === undefined ? 'Not published' : `Version ${version}` }} ·
        {{ rhythm?.week ?? joined ?? '…' }} joined in 7 days<template v-if="rhythm?.words"
          >, {{ rhythm.words }}</template
        >
      </p>
      <Curve v-if="rhythm" :counts="rhythm.last" />
    </div>
    <div class="track">
      <RouterLink
        v-for="state in line"
        :key="state.station"
        class="stop"
        :to="{ name: 'form', params: { id: form.id, station: state.station } }"
        v-hint="state.reason"
      >
        <SignalArm :signal="state.signal" :size="36" />
        <span class="name">
          {{ stationNames[state.station] }}
          <span class="state" :class="state.signal">{{ signalWords[state.signal] }}</span>
        </span>
      </RouterLink>
    </div>
  </li>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: 270px minmax(0, 1fr);
  gap: var(--gap-4);
  padding: var(--gap-3) var(--gap-4);
}
h2 {
  margin-bottom: var(--gap-1);
  font-size: 1.0625rem;
}
h2 a {
  color: var(--ink);
  text-decoration: none;
}
h2 a:hover {
  text-decoration: underline;
}
.track {
  display: grid;
  grid-template-columns: repeat(5, minmax(0, 1fr));
  /* As high as an arm with its words, before they are read. */
  min-height: 76px;
}
.stop {
  display: grid;
  align-content: start;
  color: var(--ink);
  text-decoration: none;
}
.stop :deep(svg) {
  margin-inline-start: -6px;
}
.name {
  display: grid;
  padding: var(--gap-1) var(--gap-2) 0 0;
  border-top: 3px solid var(--ink);
  font-size: var(--text-s);
  font-weight: 600;
  line-height: 1.3;
}
.state {
  color: var(--quiet);
  font-weight: 400;
}
.state.needs-work,
.state.changed {
  color: var(--raspberry);
}
.state.proven {
  color: var(--moss);
}
.stop:hover .name {
  border-top-color: var(--moss);
}
@media (max-width: 700px) {
  li {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>

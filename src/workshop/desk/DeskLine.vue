<script setup lang="ts">
import { ChevronDown } from '@lucide/vue'
import { ElButton } from 'element-plus'
import { computed, defineAsyncComponent, ref, watch } from 'vue'
import { RouterLink } from 'vue-router'
import { type Form, serviceHostOf } from '#core/form'
import { type Signal, signalWords } from '#core/line'
import { useLine } from '../line/line'
import { useArrivals, useWorkspace } from '../data'
import { vHint } from '../controls'
import { useRhythm } from '../results/rhythm'
import SignalArm from '../line/SignalArm.vue'
import { stationNames } from '#core/station'
import { worstOf } from './found-forms'

/** One form on the Desk: its name, and its line as five signals on a track; on a press, what each of them says. */
const { form, isChosen = null } = defineProps<{
  form: Form
  /** Null while none are chosen. */ isChosen?: boolean | null
}>()
const emit = defineEmits<{ signal: [worst: Signal]; choose: [] }>()

const DeskReasons = defineAsyncComponent(() => import('./DeskReasons.vue'))
const ChooseForm = defineAsyncComponent(() => import('./ChooseForm.vue'))
const workspace = useWorkspace()
const { line } = useLine(() => form.id)
const arrivals = useArrivals()
const rhythms = useRhythm()
const isOpen = ref(false)
const joined = computed(() =>
  arrivals.newest === null
    ? null
    : arrivals.of(form.id).filter(({ verdict }) => verdict === 'joined' || verdict === 'confirm-first').length,
)
const rhythm = computed(() => rhythms.of(form.id))
const service = computed(() => serviceHostOf(form.draft))
const list = computed(() => workspace.list(form.list)?.name ?? 'no list')
watch(
  line,
  (states) => {
    if (states.length > 0) emit('signal', worstOf(states))
  },
  { immediate: true },
)
</script>

<template>
  <li class="sheet form" :class="{ open: isOpen, choosing: isChosen !== null }">
    <ChooseForm v-if="isChosen !== null" :name="form.name" :is-chosen="isChosen" @choose="emit('choose')" />
    <div class="about">
      <h2>
        <RouterLink class="name-of-form" :to="{ name: 'form', params: { id: form.id } }">{{ form.name }}</RouterLink>
      </h2>
      <p class="quiet small">
        <template v-if="service !== null">straight to {{ service }}, where its sign-ups are counted</template>
        <template v-else>to {{ list }} · {{ rhythm?.week ?? joined ?? '…' }} joined in 7 days</template>
      </p>
    </div>
    <div class="track">
      <RouterLink
        v-for="state in line"
        :key="state.station"
        class="stop"
        :to="{ name: 'form', params: { id: form.id, station: state.station } }"
        v-hint="isOpen ? '' : `${signalWords[state.signal]}: ${state.reason}`"
      >
        <SignalArm :signal="state.signal" :size="26" />
        <span class="name" :class="state.signal">{{ stationNames[state.station] }}</span>
      </RouterLink>
    </div>
    <ElButton
      text
      class="more"
      :aria-expanded="isOpen"
      :aria-label="isOpen ? `Less of ${form.name}` : `More of ${form.name}`"
      @click="isOpen = !isOpen"
      ><ChevronDown :size="18"
    /></ElButton>
    <DeskReasons v-if="isOpen" class="rest" :form="form" :line="line" />
  </li>
</template>

<style scoped>
.form {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr) auto;
  gap: 0 var(--gap-4);
  align-items: center;
  min-height: 64px;
  padding-inline: var(--gap-4) var(--gap-1);
}
.choosing {
  grid-template-columns: auto minmax(0, 1fr) minmax(0, 1fr) auto;
}
h2 {
  font-size: 1.0625rem;
  line-height: 1.25;
}
h2,
.about p {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
h2 a {
  color: var(--ink);
  text-decoration: none;
}
h2 a:hover {
  text-decoration: underline;
}
.about p {
  line-height: 1.3;
}
.track {
  display: grid;
  grid-template-columns: repeat(5, minmax(0, 1fr));
  /* As high as an arm with its name, before they are read. */
  min-height: 52px;
}
.stop {
  display: grid;
  align-content: end;
  color: var(--ink);
  text-decoration: none;
}
.stop :deep(svg) {
  margin-inline-start: -4px;
}
.name {
  padding-top: 2px;
  border-top: 2px solid var(--ink);
  font-size: 0.8125rem;
  line-height: 1.3;
}
.needs-work,
.changed {
  color: var(--raspberry);
}
.name:is(.needs-work, .changed) {
  font-weight: 600;
}
.stop:hover .name {
  border-top-color: var(--moss);
}
.more {
  width: 36px;
  padding: 0;
  color: var(--quiet);
}
.more svg {
  transition: transform 0.15s;
}
.open .more svg {
  transform: rotate(180deg);
}
.rest {
  grid-column: 1 / -1;
}
@media (max-width: 700px) {
  h2 {
    white-space: normal;
  }
  .form,
  .choosing {
    grid-template-columns: minmax(0, 1fr) auto;
    padding-block: var(--gap-2);
  }
  .choosing {
    grid-template-columns: auto minmax(0, 1fr) auto;
  }
  .track {
    grid-column: 1 / -1;
    grid-row: 2;
  }
}
</style>

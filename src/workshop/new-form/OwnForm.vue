<script setup lang="ts">
import { ElButton, ElInput } from 'element-plus'
import { computed, ref, watch } from 'vue'
import type { ReadKind } from '#core/direct'
import { kindName } from '#core/form'
import Choice from '../controls/Choice.vue'
import Labelled from '../controls/Labelled.vue'
import Select from '../controls/Select.vue'
import type { DirectForm } from './direct-form'

/** A form that its owner has already, made by a list service: its code is read, and a form of ours made of it. */
const { inHand, unread } = defineProps<{
  inHand: DirectForm
  /** What is wrong where it was pasted and not read. */ unread?: string
}>()
const { pasted, page, read, problem, said, isBusy } = inHand
const start = ref<'new' | 'own'>('new')
watch(
  () => unread,
  (words) => words && (start.value = 'own'),
)
/** Who chooses to make a new one after all leaves out what was pasted. */
watch(start, (chosen) => chosen === 'new' && inHand.leaveOut())
const starts = [
  { value: 'new' as const, label: 'A new form' },
  { value: 'own' as const, label: 'I have a form already, from a list service' },
]
const kinds: ReadKind[] = ['line', 'first-name', 'last-name', 'full-name', 'phone', 'website', 'text', 'number', 'date']
const kindOptions = computed(() => [
  ...kinds.map((value) => ({ value: value as string, label: kindName(value) })),
  { value: 'leave-out', label: 'Leave it out' },
])
</script>

<template>
  <fieldset>
    <legend>What do you begin with?</legend>
    <Choice v-model="start" name="start" label="What do you begin with?" :options="starts" />
    <div v-if="start === 'own'" class="own">
      <p class="quiet small">
        Paste the code that the service gave you, or the address of a page with its form. Ask Box makes a form of it
        that posts straight to that service: in your site’s look, and with no server of yours between.
      </p>
      <ElInput
        v-model="pasted"
        type="textarea"
        :rows="6"
        aria-label="Code of the form, or the address of its page"
        spellcheck="false"
      />
      <Labelled
        v-if="problem?.needsPage"
        label="Address of the page that the code is from"
        hint="Part of the address is missing in the code."
      >
        <ElInput v-model="page" placeholder="https://" spellcheck="false" />
      </Labelled>
      <div class="row">
        <ElButton :loading="isBusy" :disabled="pasted.trim() === ''" @click="inHand.look()">Read it</ElButton>
      </div>
      <p v-if="problem" class="problem" role="alert">{{ problem.message }}</p>
      <p v-else-if="unread" class="problem" role="alert">{{ unread }}</p>
      <div v-if="read" class="found" role="status">
        <p>
          It posts to <strong>{{ inHand.host.value }}</strong> and asks for
          {{ read.fields.map(({ label, isRequired }) => `${label}${isRequired ? ' (required)' : ''}`).join(', ') }}.
        </p>
        <div v-for="field in read.fields.filter(({ unclear }) => unclear !== null)" :key="field.name" class="unclear">
          <span>“{{ field.label }}”: {{ field.unclear }}</span>
          <Select
            :model-value="said[field.name] ?? field.kind"
            :label="`What ${field.label} asks for`"
            :options="field.isRequired ? kindOptions.slice(0, -1) : kindOptions"
            @update:model-value="inHand.say(field.name, $event as ReadKind | 'leave-out')"
          />
        </div>
        <p v-if="read.fixed.length > 0" class="quiet small">
          Sent along unseen: {{ read.fixed.map(({ name }) => name).join(', ') }}.
        </p>
        <p v-if="read.dropped.length > 0" class="quiet small">Not taken along: {{ read.dropped.join('; ') }}.</p>
      </div>
    </div>
  </fieldset>
</template>

<style scoped>
.own,
.found {
  display: grid;
  gap: var(--gap-3);
}
.own p {
  margin: 0;
}
.unclear {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 220px;
  gap: var(--gap-3);
  align-items: center;
}
</style>

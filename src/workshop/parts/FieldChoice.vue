<script setup lang="ts">
import { computed } from 'vue'
import { emailField, firstNameField, type FormContent } from '#core/form'
import type { Draft } from '../stores/draft'
import Choice from './Choice.vue'

/** What the form asks: each question more costs sign-ups, so the address alone comes first. */
const { content, draft } = defineProps<{ content: FormContent; draft: Draft }>()

const firstName = computed(() => content.fields.find((field) => field.kind === 'first-name'))
const asks = computed<'email' | 'both'>({
  get: () => (firstName.value === undefined ? 'email' : 'both'),
  set: (choice) =>
    draft.change(choice === 'both' ? 'Ask for the first name' : 'Ask for the email alone', 'fields', (changed) => {
      const [email = emailField()] = changed.fields
      changed.fields = choice === 'both' ? [email, firstNameField(false)] : [email]
    }),
})
const required = computed<'optional' | 'required'>({
  get: () => (firstName.value?.required ? 'required' : 'optional'),
  set: (choice) =>
    draft.change(`Make the first name ${choice}`, 'required', (changed) => {
      const field = changed.fields.find((one) => one.kind === 'first-name')
      if (field?.kind === 'first-name') field.required = choice === 'required'
    }),
})
</script>

<template>
  <fieldset class="group">
    <legend>Asks for</legend>
    <Choice
      v-model="asks"
      name="asks"
      :options="[
        { value: 'email', label: 'Email' },
        { value: 'both', label: 'Email and first name' },
      ]"
    />
    <div v-if="firstName" class="field">
      <span class="name">First name is</span>
      <Choice
        v-model="required"
        name="required"
        :options="[
          { value: 'optional', label: 'Optional' },
          { value: 'required', label: 'Required' },
        ]"
      />
    </div>
  </fieldset>
</template>

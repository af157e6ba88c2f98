<script setup lang="ts">
import { ElButton, ElInput } from 'element-plus'
import { computed } from 'vue'
import { type FormContent, messagesOf } from '#core/form'
import { parseEmail } from '#core/email'
import type { Draft } from '../../draft'
import Labelled from '../../../controls/Labelled.vue'
import NumberInput from '../../../controls/NumberInput.vue'

/** Where what visitors write goes, and how long it is kept. */
const { content, draft, owner } = defineProps<{
  content: FormContent
  draft: Draft
  /** As the list's mail tells it. */ owner: string
}>()
const messages = computed(() => messagesOf(content))
const problem = computed(() =>
  parseEmail(messages.value.to).ok
    ? ''
    : messages.value.to.trim() === ''
      ? 'Say where messages go.'
      : 'This is no email address.',
)

function change(part: string, changes: Partial<NonNullable<FormContent['messages']>>): void {
  draft.change('Say where messages go', `messages ${part}`, (changed) => {
    changed.messages = { ...messagesOf(changed), ...changes }
  })
}
</script>

<template>
  <fieldset class="group messages">
    <legend>Messages</legend>
    <p class="quiet small">
      Each comes to you as a mail that you can answer as usual, and is kept with this form. Who leaves the box alone
      joins no list.
    </p>
    <Labelled label="They go to" :problem="problem">
      <ElInput :model-value="messages.to" type="email" autocomplete="email" @input="change('to', { to: $event })" />
    </Labelled>
    <ElButton v-if="owner !== '' && owner !== messages.to.trim()" link size="small" @click="change('to', { to: owner })"
      >Take {{ owner }}</ElButton
    >
    <Labelled
      label="Kept for so many days"
      hint="After them a message is erased here. Your own mailbox keeps its mail."
    >
      <NumberInput
        :value="messages.keepDays"
        :least="1"
        :most="3650"
        @change="change('days', { keepDays: $event ?? messages.keepDays })"
      />
    </Labelled>
  </fieldset>
</template>

<style scoped>
.messages {
  margin-top: var(--gap-5);
}
</style>

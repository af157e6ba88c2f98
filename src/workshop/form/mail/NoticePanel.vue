<script setup lang="ts">
import { computed } from 'vue'
import type { MailSettings } from '#core/mail'
import Choice from '../../controls/Choice.vue'
import Labelled from '../../controls/Labelled.vue'
import TypedInput from '../../controls/TypedInput.vue'
import type { MailDraft } from './mail-draft'

/** Whether the owner gets a mail when somebody joins. */
const { mail, settings } = defineProps<{ mail: MailDraft; settings: MailSettings }>()
const when = computed<MailSettings['notice']['when']>({
  get: () => settings.notice.when,
  set: (value) => mail.change('Notices', 'notice', (changed) => void (changed.notice.when = value)),
})
</script>

<template>
  <fieldset class="group">
    <legend>When somebody joins, tell me</legend>
    <Choice
      v-model="when"
      name="notice"
      :options="[
        { value: 'never', label: 'Never' },
        { value: 'each', label: 'Each time' },
        { value: 'daily', label: 'Once a day, all together' },
      ]"
    />
    <Labelled v-if="settings.notice.when !== 'never'" label="Your address">
      <TypedInput
        :value="settings.notice.address"
        type="email"
        @change="
          mail.change(
            'Address for notices',
            'notice-address',
            (changed) => void (changed.notice.address = $event.trim()),
          )
        "
      />
    </Labelled>
  </fieldset>
</template>

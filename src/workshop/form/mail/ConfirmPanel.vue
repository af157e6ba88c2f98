<script setup lang="ts">
import { ElCheckbox, ElCheckboxGroup } from 'element-plus'
import { computed } from 'vue'
import { type MailSettings } from '#core/mail'
import { countriesOf, type RegionGroup, regionGroups } from '#core/region'
import Choice from '../../controls/Choice.vue'
import Labelled from '../../controls/Labelled.vue'
import NumberInput from '../../controls/NumberInput.vue'
import type { MailDraft } from './mail-draft'

/** Who has to confirm by mail, for how long, and what strangers can find out. */
const { mail, settings } = defineProps<{ mail: MailDraft; settings: MailSettings }>()

const confirm = computed<MailSettings['confirm']>({
  get: () => settings.confirm,
  set: (way) => mail.change('Who confirms', 'confirm', (changed) => void (changed.confirm = way)),
})
const groups = Object.keys(regionGroups) as RegionGroup[]
const chosen = computed({
  get: () => groups.filter((group) => countriesOf(group).every((country) => settings.regions.includes(country))),
  set: (wanted: RegionGroup[]) =>
    mail.change('Regions that confirm', 'regions', (changed) => {
      changed.regions = [...new Set(wanted.flatMap(countriesOf))]
    }),
})
</script>

<template>
  <fieldset class="group">
    <legend>Who confirms by mail</legend>
    <Choice
      v-model="confirm"
      name="confirm"
      :options="[
        { value: 'never', label: 'Nobody' },
        { value: 'always', label: 'Everybody' },
        { value: 'regions', label: 'Some regions' },
      ]"
    />
    <p class="quiet small">
      Whoever confirms gets one mail first and is on the list after a press in it. Only real addresses come in, and
      nobody is put on a list by a stranger.
    </p>
    <template v-if="settings.confirm === 'regions'">
      <ElCheckboxGroup v-model="chosen" aria-label="Regions whose visitors confirm" class="regions">
        <ElCheckbox v-for="group in groups" :key="group" :value="group" :label="group" />
      </ElCheckboxGroup>
      <p class="quiet small">
        Told by the form’s country field, else by the browser’s time zone. Where neither is known, the visitor confirms.
      </p>
    </template>
    <template v-if="settings.confirm !== 'never'">
      <Labelled label="Days to confirm" hint="After that, an address that never confirmed is removed.">
        <NumberInput
          :value="settings.waitingDays"
          :least="1"
          :most="90"
          @change="mail.change('Days to confirm', 'days', (changed) => void (changed.waitingDays = $event ?? 7))"
        />
      </Labelled>
      <ElCheckbox
        :model-value="settings.messages.reminder.isOn"
        label="Remind once, half way"
        @change="
          mail.change('Reminder', 'reminder', (changed) => void (changed.messages.reminder.isOn = Boolean($event)))
        "
      />
    </template>
    <ElCheckbox
      :model-value="settings.isDiscreet"
      label="Keep secret who is on the list"
      @change="
        mail.change('Keep the list secret', 'discreet', (changed) => void (changed.isDiscreet = Boolean($event)))
      "
    />
    <p class="quiet small">
      Then “already on the list” reads like any success, and the person gets a mail that says so. Otherwise anybody can
      find out whether an address is on the list by typing it.
    </p>
  </fieldset>
</template>

<style scoped>
.regions {
  display: grid;
}
</style>

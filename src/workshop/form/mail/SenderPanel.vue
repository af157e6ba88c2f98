<script setup lang="ts">
import type { List } from '#core/list'
import type { MailSettings } from '#core/mail'
import type { Site } from '#core/site'
import { type Language, languageNames, languages } from '#core/texts'
import { mailInLanguage } from '#core/message'
import Labelled from '../../controls/Labelled.vue'
import Select from '../../controls/Select.vue'
import TypedInput from '../../controls/TypedInput.vue'
import ColourInput from '../../controls/ColourInput.vue'
import OwnInbox from '../../mail-room/OwnInbox.vue'
import SenderCheck from './SenderCheck.vue'
import { likelySender, type MailDraft } from './mail-draft'

/** From whom, in which language and colours, and what receiving servers will make of it. */
const { mail, settings, site, list } = defineProps<{
  mail: MailDraft
  settings: MailSettings
  site: Site | null
  list: List
}>()

type Texts = 'senderName' | 'senderAddress' | 'replyTo' | 'bounceAddress' | 'postalAddress'
const set = (name: string, part: Texts) => (text: string) =>
  mail.change(name, part, (changed) => void (changed[part] = text.trim()))

/** Messages that are still ours follow; what the owner wrote stays. */
function speak(language: Language): void {
  mail.change(`Speak ${languageNames[language]}`, 'language', (changed) =>
    Object.assign(changed, mailInLanguage(changed, language)),
  )
}
const colours = [
  { key: 'ground', label: 'Ground' },
  { key: 'text', label: 'Text' },
  { key: 'button', label: 'Button' },
  { key: 'buttonText', label: 'Words on the button' },
] as const
</script>

<template>
  <fieldset class="group">
    <legend>Sender</legend>
    <Labelled label="Name" hint="A person’s name is opened more readily than a company’s.">
      <TypedInput :value="settings.senderName" :maxlength="200" @change="set('Sender’s name', 'senderName')($event)" />
    </Labelled>
    <Labelled label="Address">
      <TypedInput
        type="email"
        :value="settings.senderAddress"
        :placeholder="likelySender(site)"
        @change="set('Sender’s address', 'senderAddress')($event)"
      />
    </Labelled>
    <Labelled label="Answers go to" hint="Empty: to the sender’s address.">
      <TypedInput type="email" :value="settings.replyTo" @change="set('Address for answers', 'replyTo')($event)" />
    </Labelled>
    <Labelled
      label="Where undeliverable mail is returned"
      hint="On the sender’s own domain. Empty: to the sender’s address."
    >
      <TypedInput
        type="email"
        :value="settings.bounceAddress"
        @change="set('Address for bounces', 'bounceAddress')($event)"
      />
    </Labelled>
    <Labelled label="Postal address below each message">
      <TypedInput
        type="textarea"
        :rows="2"
        :maxlength="500"
        :value="settings.postalAddress"
        @change="set('Postal address', 'postalAddress')($event)"
      />
    </Labelled>
    <SenderCheck :sender="settings.senderAddress" :bounce="settings.bounceAddress" />
  </fieldset>
  <OwnInbox :list="list.id" />
  <fieldset class="group">
    <legend>Language and dress</legend>
    <Labelled label="The messages speak">
      <Select
        :model-value="settings.language"
        :options="languages.map((value) => ({ value, label: languageNames[value] }))"
        @update:model-value="$event !== '' && speak($event)"
      />
    </Labelled>
    <ColourInput
      v-for="{ key, label } in colours"
      :key="key"
      :value="settings.colours[key]"
      :effective="settings.colours[key]"
      :name="label"
      :palette="site?.palette?.colours ?? []"
      @change="
        $event && mail.change(`Colour: ${label}`, `colour ${key}`, (changed) => void (changed.colours[key] = $event))
      "
    />
  </fieldset>
</template>

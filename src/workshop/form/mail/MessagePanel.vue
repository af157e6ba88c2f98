<script setup lang="ts">
import { ElButton, ElDropdown, ElDropdownItem, ElDropdownMenu, ElInput, ElCheckbox } from 'element-plus'
import { computed, ref, shallowRef } from 'vue'
import type { List } from '#core/list'
import { type MailSettings, type MessageKind, messageNames } from '#core/mail'
import { startMessages } from '#core/message'
import type { Placeholder, RichText } from '#core/text'
import { handToDownloads } from '../../controls'
import Labelled from '../../controls/Labelled.vue'
import { clientFor } from '../../client'
import { useReceiver } from '../../sync'
import RichBar from '../../controls/RichBar.vue'
import { placeholderNames, type TextEditor } from '../../writing'
import type { MailDraft } from './mail-draft'
import MessageText from './MessageText.vue'

/** One message, written where it stands; placeholders are put in whole. */
const { mail, settings, kind, list } = defineProps<{
  mail: MailDraft
  settings: MailSettings
  kind: MessageKind
  list: List
}>()

const receiver = useReceiver()
const message = computed(() => settings.messages[kind])
const editor = shallowRef<TextEditor | null>(null)
const fallback = ref('there')
const to = ref('')
const said = ref<{ ok: boolean; said: string } | null>(null)
const isBusy = ref(false)

const write = (part: 'subject' | 'text' | 'below', text: RichText) =>
  mail.change(
    `Rewrite “${messageNames[kind]}”`,
    `${kind} ${part}`,
    (changed) => void (changed.messages[kind][part] = text),
  )
const offered = computed((): Placeholder[] => [
  'first-name',
  'list',
  ...(kind === 'welcome' || kind === 'already-there' ? (['leave-link'] as const) : (['link'] as const)),
  ...(kind === 'confirmation' || kind === 'reminder' ? (['days'] as const) : []),
  ...(kind === 'welcome' && settings.gift !== null ? (['gift-link'] as const) : []),
])

function asBefore(): void {
  mail.change(`“${messageNames[kind]}” as it was at first`, `${kind} all`, (changed) => {
    changed.messages[kind] = { ...startMessages(changed.language)[kind], isOn: changed.messages[kind].isOn }
  })
}

async function send(): Promise<void> {
  if (receiver.pairing === null) return
  isBusy.value = true
  try {
    said.value = await clientFor(receiver.pairing).sendTestMail(to.value, { list: list.id, settings, kind })
  } catch (error) {
    said.value = { ok: false, said: error instanceof Error ? error.message : String(error) }
  } finally {
    isBusy.value = false
  }
}

async function saveEml(): Promise<void> {
  if (receiver.pairing === null) return
  const { eml } = await clientFor(receiver.pairing).writeMessage(to.value || 'reader@post.example', {
    list: list.id,
    settings,
    kind,
  })
  const bytes = Uint8Array.from(atob(eml), (letter) => letter.charCodeAt(0))
  handToDownloads({ blob: new Blob([bytes], { type: 'message/rfc822' }), name: `${kind}.eml` })
}
</script>

<template>
  <fieldset class="group">
    <legend>{{ messageNames[kind] }}</legend>
    <ElCheckbox
      v-if="kind === 'welcome' || kind === 'leaving' || kind === 'reminder'"
      :model-value="message.isOn"
      label="Sent"
      @change="
        mail.change(
          `${messageNames[kind]} on or off`,
          `${kind} on`,
          (changed) => void (changed.messages[kind].isOn = Boolean($event)),
        )
      "
    />
    <div class="bars">
      <RichBar :editor="editor" />
      <ElDropdown trigger="click" @command="editor?.put($event, $event === 'first-name' ? fallback : '')">
        <ElButton size="small" :disabled="editor === null" @mousedown.prevent>Put in …</ElButton>
        <template #dropdown>
          <ElDropdownMenu>
            <ElDropdownItem v-for="one in offered" :key="one" :command="one">{{
              placeholderNames[one]
            }}</ElDropdownItem>
          </ElDropdownMenu>
        </template>
      </ElDropdown>
    </div>
    <MessageText
      label="Subject"
      kind="line"
      :text="message.subject"
      :language="settings.language"
      @in-hand="editor = $event"
      @write="write('subject', $event)"
    />
    <MessageText
      label="Text"
      kind="rich"
      :text="message.text"
      :language="settings.language"
      @in-hand="editor = $event"
      @write="write('text', $event)"
    />
    <Labelled v-if="kind !== 'welcome' && kind !== 'already-there'" label="Words on the button">
      <ElInput
        :model-value="message.button"
        :maxlength="100"
        @update:model-value="
          mail.change(
            'Words on the button',
            `${kind} button`,
            (changed) => void (changed.messages[kind].button = $event),
          )
        "
      />
    </Labelled>
    <MessageText
      label="Below the button"
      kind="rich"
      :text="message.below"
      :language="settings.language"
      @in-hand="editor = $event"
      @write="write('below', $event)"
    />
    <Labelled label="Where no first name is known, say">
      <ElInput v-model="fallback" :maxlength="60" />
    </Labelled>
    <ElButton class="start" text @click="asBefore">As it was at first</ElButton>
  </fieldset>
  <fieldset class="group">
    <legend>Try it</legend>
    <form novalidate class="beside" @submit.prevent="send">
      <ElInput v-model="to" type="email" placeholder="you@your-site.example" aria-label="Send a test to" />
      <ElButton native-type="submit" :loading="isBusy">Send a test</ElButton>
    </form>
    <p v-if="said" class="small" :class="{ problem: !said.ok }" role="status">
      {{ said.ok ? 'The mail server took it: look in the inbox.' : `Not sent. ${said.said}` }}
    </p>
    <ElButton class="start" text @click="saveEml">Save it as a mail file (.eml)</ElButton>
  </fieldset>
</template>

<style scoped>
.bars {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--gap-2);
}
.start {
  justify-self: start;
}
</style>

<script setup lang="ts">
import { computed, ref } from 'vue'
import type { List } from '#core/list'
import { type MailSettings, type MessageKind } from '#core/mail'
import { renderMessage } from '#core/message'
import MailSheet from '../../preview/MailSheet.vue'

/** A message as its reader gets it: by desk or phone, in light or dark, as HTML or as plain text. */
const { settings, list, kind } = defineProps<{ settings: MailSettings; list: List; kind: MessageKind }>()

const shows = ref<'light' | 'dark' | 'plain'>('light')
const EXAMPLE = 'https://forms.example'
const rendered = computed(() =>
  renderMessage(settings, list, kind, {
    firstName: 'Wren',
    link: kind === 'welcome' || kind === 'already-there' ? null : `${EXAMPLE}/confirm/…`,
    leaveLink: kind === 'welcome' || kind === 'already-there' ? `${EXAMPLE}/leave/…` : null,
    giftLink: settings.gift === null ? null : `${EXAMPLE}/gift/…`,
  }),
)
/** The scheme of this window is the owner's; the message is shown in the one that was asked for. */
const page = computed(() =>
  rendered.value.html.replace(
    '@media (prefers-color-scheme: dark)',
    shows.value === 'dark' ? '@media all' : '@media not all',
  ),
)
</script>

<template>
  <MailSheet
    v-model:shown="shows"
    :from="settings.senderName"
    :address="settings.senderAddress"
    :subject="rendered.subject"
    :ways="[
      { value: 'light', label: 'Light' },
      { value: 'dark', label: 'Dark' },
      { value: 'plain', label: 'Plain text' },
    ]"
  >
    <pre v-if="shows === 'plain'" tabindex="0">{{ rendered.text }}</pre>
    <iframe v-else sandbox="allow-same-origin" title="The message, as its reader gets it" :srcdoc="page" />
  </MailSheet>
</template>

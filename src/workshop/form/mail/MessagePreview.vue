<script setup lang="ts">
import { computed, ref } from 'vue'
import type { List } from '#core/list'
import { type MailSettings, type MessageKind } from '#core/mail'
import { renderMessage } from '#core/message'
import Views from '../../controls/Views.vue'

/** A message as its reader gets it: by desk or phone, in light or dark, as HTML or as plain text. */
const { settings, list, kind } = defineProps<{ settings: MailSettings; list: List; kind: MessageKind }>()

const size = ref<'desk' | 'phone'>('desk')
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
  <div class="message">
    <div class="row tools">
      <Views
        v-model="size"
        label="Shown on"
        :views="[
          { value: 'desk', label: 'Desk' },
          { value: 'phone', label: 'Phone' },
        ]"
      />
      <Views
        v-model="shows"
        label="Shown as"
        :views="[
          { value: 'light', label: 'Light' },
          { value: 'dark', label: 'Dark' },
          { value: 'plain', label: 'Plain text' },
        ]"
      />
    </div>
    <div class="sheet letter" :class="size">
      <dl>
        <dt>From</dt>
        <dd>{{ settings.senderName }} &lt;{{ settings.senderAddress || 'address missing' }}&gt;</dd>
        <dt>Subject</dt>
        <dd class="subject">{{ rendered.subject }}</dd>
      </dl>
      <pre v-if="shows === 'plain'" tabindex="0">{{ rendered.text }}</pre>
      <iframe v-else sandbox="allow-same-origin" title="The message, as its reader gets it" :srcdoc="page" />
    </div>
  </div>
</template>

<style scoped>
.message {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-3);
}
.tools {
  flex-wrap: wrap;
  gap: var(--gap-4);
}
.tools :deep(.el-radio) {
  margin: 0 var(--gap-1) 0 0;
}
.letter {
  display: grid;
  grid-template-rows: auto 1fr;
  overflow: hidden;
}
.letter.phone {
  width: 360px;
  max-width: 100%;
}
dl {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  gap: 2px var(--gap-3);
  margin: 0;
  padding: var(--gap-3) var(--gap-4);
  border-bottom: 1px solid var(--hairline);
  font-size: var(--text-s);
}
dt {
  color: var(--quiet);
}
dd {
  margin: 0;
  overflow-wrap: anywhere;
}
.subject {
  font-weight: 600;
}
iframe {
  display: block;
  width: 100%;
  height: 480px;
  border: 0;
  background: #fff;
}
pre {
  min-height: 480px;
  margin: 0;
  padding: var(--gap-4);
  font-family: var(--font-code);
  font-size: var(--text-s);
  white-space: pre-wrap;
  overflow-wrap: anywhere;
}
</style>

<script setup lang="ts">
import { computed, defineAsyncComponent, ref } from 'vue'
import { RouterLink } from 'vue-router'
import type { Form, FormContent } from '#core/form'
import type { StationState } from '#core/line'
import { type MessageKind, messageKinds, messagesInUse } from '#core/mail'
import { useWorkspace } from '../../data'
import Changes from '../../controls/Changes.vue'
import Findings from '../../controls/Findings.vue'
import type { MailDraft } from './mail-draft'
import MailWay, { type MailPart } from './MailWay.vue'
import MessagePreview from './MessagePreview.vue'

/** All that a list sends by itself: who confirms, each message, from whom, the gift, and what the owner hears of it. */
const { form, mail, state } = defineProps<{
  form: Form
  content: FormContent
  mail: MailDraft
  state?: StationState
}>()

const workspace = useWorkspace()
const list = computed(() => workspace.list(form.list))
const site = computed(() => {
  const [spot] = workspace.spotsOf(form.id)
  return spot === undefined ? null : workspace.site(spot.site)
})
const settings = mail.settings
const part = ref<MailPart>('confirm')
const inUse = computed(() => (settings.value === null ? [] : messagesInUse(settings.value)))
/** The message in sight beside what is worked on. */
const shown = computed(
  (): MessageKind =>
    messageKinds.find((kind) => kind === part.value) ??
    (part.value === 'gift' ? 'welcome' : (inUse.value[0] ?? 'welcome')),
)
const findings = computed(
  () =>
    state?.findings.filter(({ about }) =>
      part.value === 'sender' ? about === 'sender' || about === 'colours' : about === part.value,
    ) ?? [],
)
const needsServer = computed(() => state?.signal === 'needs-work' && /mail server/.test(state.reason))
const panels = {
  confirm: defineAsyncComponent(() => import('./ConfirmPanel.vue')),
  sender: defineAsyncComponent(() => import('./SenderPanel.vue')),
  gift: defineAsyncComponent(() => import('./GiftPanel.vue')),
  notice: defineAsyncComponent(() => import('./NoticePanel.vue')),
  message: defineAsyncComponent(() => import('./MessagePanel.vue')),
}
const panel = computed(() => panels[part.value as keyof typeof panels] ?? panels.message)
</script>

<template>
  <section v-if="settings && list" aria-label="Mail">
    <MailWay v-model="part" class="way" :list="list" :settings="settings" :findings="state?.findings ?? []">
      <h2>The mail of “{{ list.name }}”</h2>
      <p v-if="state" class="small">
        {{ state.reason }}
        <RouterLink v-if="needsServer" :to="{ name: 'mail-room', query: { view: 'server' } }"
          >Set up the mail server</RouterLink
        >
      </p>
    </MailWay>
    <div class="station">
      <div class="work">
        <MessagePreview :settings="settings" :list="list" :kind="shown" />
        <p class="quiet small">
          Every message of “{{ list.name }}” ends with: <q>{{ list.why }}</q>{{ ' ' }}
          <RouterLink :to="{ name: 'list', params: { id: list.id } }">Change it</RouterLink>
          ·
          <RouterLink :to="{ name: 'mail-room' }">What was sent, and how</RouterLink>
        </p>
      </div>
      <div class="controls">
        <Findings :findings="findings" />
        <Changes>
          <component
            :is="panel"
            :key="part"
            :mail="mail"
            :settings="settings"
            :list="list"
            :site="site"
            :kind="shown"
          />
        </Changes>
      </div>
    </div>
  </section>
</template>

<style scoped>
.way {
  margin-bottom: var(--gap-4);
}
</style>

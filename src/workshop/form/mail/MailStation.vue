<script setup lang="ts">
import { computed, defineAsyncComponent, ref } from 'vue'
import { RouterLink } from 'vue-router'
import type { Form, FormContent } from '#core/form'
import type { StationState } from '#core/line'
import { type MessageKind, messageKinds, messageNames, messagesInUse } from '#core/mail'
import Choice from '../../controls/Choice.vue'
import { useWorkspace } from '../../data'
import Findings from '../Findings.vue'
import type { MailDraft } from './mail-draft'
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
type Part = 'confirm' | 'sender' | 'gift' | 'notice' | MessageKind
const part = ref<Part>('confirm')
const inUse = computed(() => (settings.value === null ? [] : messagesInUse(settings.value)))
const parts = computed((): { value: Part; label: string }[] => [
  { value: 'confirm', label: 'Who confirms' },
  ...messageKinds.map((kind) => ({
    value: kind as Part,
    label: `${messageNames[kind]}${inUse.value.includes(kind) ? '' : ' (not sent)'}`,
  })),
  { value: 'gift', label: settings.value?.gift ? `Gift: ${settings.value.gift.label}` : 'Gift' },
  { value: 'sender', label: 'Sender and addresses' },
  { value: 'notice', label: 'Notices to you' },
])
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
const elsewhere = computed(
  () => state?.findings.filter((one) => !findings.value.includes(one) && one.weight === 'stops') ?? [],
)
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
    <fieldset class="group parts">
      <legend>Mail of “{{ list.name }}”</legend>
      <Choice v-model="part" name="mail-part" :options="parts" />
    </fieldset>
    <div class="station">
      <div class="work">
        <MessagePreview :settings="settings" :list="list" :kind="shown" />
        <p v-if="state" class="small">{{ state.reason }}</p>
        <p class="quiet small">
          Every message of “{{ list.name }}” ends with: <q>{{ list.why }}</q>{{ ' ' }}
          <RouterLink :to="{ name: 'list', params: { id: list.id } }">Change it</RouterLink>
          ·
          <RouterLink :to="{ name: 'mail-room' }">What was sent, and how</RouterLink>
        </p>
      </div>
      <div class="controls">
        <Findings :findings="findings" />
        <p v-if="elsewhere.length > 0" class="small problem">
          Also: {{ elsewhere.map(({ message }) => message).join(' ') }}
        </p>
        <component :is="panel" :key="part" :mail="mail" :settings="settings" :list="list" :site="site" :kind="shown" />
      </div>
    </div>
  </section>
</template>

<style scoped>
.parts {
  margin-bottom: var(--gap-5);
}
.parts :deep(.el-radio-group) {
  display: flex;
  flex-wrap: wrap;
  gap: var(--gap-2);
}
.parts :deep(.el-radio) {
  margin: 0;
}
</style>

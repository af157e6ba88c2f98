<script setup lang="ts">
import { type Station, stationNames, stations } from '#core/station'
import { Redo2, Undo2 } from '@lucide/vue'
import { ElButton, ElSkeleton } from 'element-plus'
import { computed, defineAsyncComponent, onBeforeUnmount, onMounted, ref, type Component } from 'vue'
import { useRouter } from 'vue-router'
import { isPublishedAs, takesMessages } from '#core/form'
import { speaksAgainst } from '#core/checkup'
import type { FormId } from '#core/ids'
import type { Signal } from '#core/line'
import { messagesInUse } from '#core/mail'
import AgainstPublishing from './AgainstPublishing.vue'
import DirectStation from './DirectStation.vue'
import FormMenu from './FormMenu.vue'
import FormName from './FormName.vue'
import LineBar from '../line/LineBar.vue'
import PublishButton from './PublishButton.vue'
import { vHint } from '../controls'
import { useWorkspace } from '../data'
import { useUndoKeys } from '../document'
import { useRested } from '../rest'
import { columnsWith } from './columns'
import { useDraft } from './draft'
import { provideMending } from './mend'
import { useLine } from '../line/line'
import { useMailDraft } from './mail/mail-draft'
import MessagesLink from '../messages/MessagesLink.vue'
import FormResults from '../results/FormResults.vue'
import FailureNote from '../rehearsal/FailureNote.vue'
import RehearseButton from '../rehearsal/RehearseButton.vue'
import { newestAt, risenSignals, shownDuration } from '../rehearsal/signals'
import { useRehearsal } from '../rehearsal/store'
import { useMembers } from '../people'
import { useNewest } from '../lists'
import { useReceiver } from '../sync'
import Nowhere from '../Nowhere.vue'
import { useNotices } from '../notices'
import { useTitle } from '../title'

const props = defineProps<{ id: string; station?: string }>()

const workspace = useWorkspace()
const router = useRouter()
const id = computed(() => props.id as FormId)
const current = computed<Station>(() => stations.find((one) => one === props.station) ?? 'form')
const form = computed(() => workspace.form(id.value))
useTitle(() => (form.value === null ? null : `${form.value.name}: ${stationNames[current.value]}`))
const list = computed(() => (form.value === null ? null : workspace.list(form.value.list)))
const notices = useNotices()
const draft = useDraft(
  id,
  (before, after) => (form.value ? columnsWith(form.value.list, before, after) : null),
  (words) => notices.done(words),
)
/** What the small previews show, which follow when the hands rest. */
const rested = useRested(() => draft.content.value, 200)
/** Posts straight to a service: what it answers, sends and keeps is that service's. */
const isDirect = computed(() => draft.content.value?.direct !== undefined)
const resting = computed(() => rested.value ?? draft.content.value)
const { line, lines, failures: found } = useLine(id, () => draft.content.value)
const site = computed(() => {
  const [spot] = workspace.spotsOf(id.value)
  return spot === undefined ? null : workspace.site(spot.site)
})
const mail = useMailDraft(list, () => ({ content: draft.content.value, site: site.value }))
provideMending(() => form.value, draft, mail)
/** What the line shows of the mail; nothing for a list that sends none. */
const mailShown = computed(() => {
  const mail = list.value === null ? null : workspace.mail(list.value.id)
  return mail === null || messagesInUse(mail.draft).length === 0 ? null : mail.draft
})
/** What Undo and Redo are of. */
const inHand = computed(() => (current.value === 'mail' ? mail : draft))
useUndoKeys(() => inHand.value)
const whenKept = () => Promise.all([draft.whenKept(), mail.whenKept()])
const members = useMembers()
const newest = useNewest(() => (list.value === null ? null : { list: list.value.id, status: 'confirmed', limit: 3 }))
const isLanding = computed(() => workspace.isPage(id.value))
const latest = computed(() => workspace.latestVersion(id.value))
const spots = computed(() => workspace.spotsOf(id.value))
const rehearsal = useRehearsal()
const receiver = useReceiver()
const WhoElse = defineAsyncComponent(() => import('./WhoElse.vue'))
/** How far a rehearsal of one of this form's spots has come, station by station. */
const risen = computed(() => {
  const going = rehearsal.going.find((one) => spots.value.some(({ id }) => id === one.spot))
  if (going === undefined) return null
  const signals = risenSignals(going.steps)
  return Object.fromEntries(
    stations.map((station) => {
      const step = newestAt(going.steps, station)
      const seen = step === undefined ? null : `${step.what} · ${shownDuration(step.ms)}`
      return [station, { signal: signals[station], seen }]
    }),
  ) as Record<Station, { signal: Signal; seen: string | null }>
})
const failures = computed(() => (rehearsal.going.length === 0 ? found.value : []))
const isPublished = computed(
  () =>
    form.value !== null &&
    draft.content.value !== null &&
    isPublishedAs({ ...form.value, draft: draft.content.value }, latest.value),
)
/** What speaks against what waits to be published: of the mail alone, where the form is. */
const against = computed(() =>
  isPublished.value && mail.isPublished.value
    ? []
    : line.value
        .flatMap(({ findings }) => findings)
        .filter((finding) => speaksAgainst(finding) && (!isPublished.value || finding.station === 'mail')),
)
/** Where the checkup is open, it says what is the form's: the same is said once. */
const isChecking = ref(false)
const againstHere = computed(() =>
  current.value === 'form' && isChecking.value
    ? against.value.filter(({ station }) => station !== 'form')
    : against.value,
)

const load: Record<Station, () => Promise<Component>> = {
  spot: () => import('./spot/SpotStation.vue'),
  form: () => import('./content/FormStation.vue'),
  answer: () => import('./answer/AnswerStation.vue'),
  mail: () => import('./mail/MailStation.vue'),
  list: () => import('./list/ListStation.vue'),
}
const panels = Object.fromEntries(
  stations.map((station) => [station, defineAsyncComponent(load[station])]),
) as unknown as Record<Station, Component>
// On its way while the form itself is read.
void load[current.value]()

function onKey(event: KeyboardEvent): void {
  if (
    event.ctrlKey ||
    event.metaKey ||
    event.altKey ||
    (event.target as HTMLElement).closest('input, textarea, select, [contenteditable]')
  )
    return
  const station = stations[Number(event.key) - 1]
  if (station !== undefined) void router.replace({ name: 'form', params: { id: id.value, station } })
}
onMounted(() => addEventListener('keydown', onKey))
onBeforeUnmount(() => removeEventListener('keydown', onKey))
</script>

<template>
  <Nowhere v-if="workspace.isLoaded && form === null" />
  <ElSkeleton
    v-else-if="form === null || draft.content.value === null || line.length === 0"
    class="page"
    :rows="8"
    animated
  />
  <div v-else class="page form-page">
    <header class="page-head">
      <div class="title">
        <FormName :form="form" :list="list" :draft="draft" />
        <div class="brought">
          <FormResults :form="form.id" />
          <MessagesLink :form="form.id" :takes-messages="takesMessages(draft.content.value)" />
          <WhoElse v-if="receiver.isLinked" :form="form.id" />
        </div>
      </div>
      <div class="row">
        <ElButton
          text
          :disabled="inHand.undoName.value === null"
          v-hint="`Undo: ${inHand.undoName.value ?? 'nothing'}`"
          aria-label="Undo"
          @click="inHand.undo()"
        >
          <Undo2 :size="18" />
        </ElButton>
        <ElButton
          text
          :disabled="inHand.redoName.value === null"
          v-hint="`Redo: ${inHand.redoName.value ?? 'nothing'}`"
          aria-label="Redo"
          @click="inHand.redo()"
        >
          <Redo2 :size="18" />
        </ElButton>
        <RehearseButton :spots="spots" />
        <FormMenu :form="form" :draft="draft" />
        <PublishButton
          :form="form"
          :when-kept="whenKept"
          :is-published="isPublished"
          :is-mail-published="mail.isPublished.value"
          :latest="latest"
          :faults="against.length"
        />
      </div>
    </header>
    <LineBar
      :form="form.id"
      :is-landing="isLanding"
      v-if="resting"
      :content="resting"
      :line="line"
      :current="current"
      :newest="newest"
      :is-known="members.isReady"
      :list-name="list?.name ?? ''"
      :mail="mailShown"
      :risen="risen"
    />
    <div v-if="failures.length > 0" class="failures">
      <FailureNote
        v-for="{ proof, step } in failures"
        :key="`${proof.id} ${step.station}`"
        :proof="proof"
        :step="step"
        :is-elsewhere="step.station !== current"
        :findings="line.find(({ station }) => station === 'form')?.findings ?? []"
      />
    </div>
    <AgainstPublishing
      v-if="againstHere.length > 0"
      class="panel"
      :form="form"
      :findings="againstHere"
      :current="current"
    />
    <DirectStation
      v-if="isDirect && (current === 'answer' || current === 'mail' || current === 'list')"
      class="panel"
      :content="draft.content.value"
      :station="current"
    />
    <component
      v-else
      :is="panels[current]"
      class="panel"
      :form="form"
      :draft="draft"
      :content="draft.content.value"
      :state="line.find(({ station }) => station === current)"
      v-bind="current === 'spot' ? { lines } : current === 'mail' ? { mail } : {}"
      @checking="isChecking = $event"
    />
  </div>
</template>

<style scoped>
.form-page {
  padding-top: var(--gap-4);
}
.page-head {
  align-items: start;
  margin-bottom: var(--gap-2);
}
.title {
  flex: 1 1 280px;
  min-width: 0;
}
.brought {
  display: flex;
  flex-wrap: wrap;
  gap: 0 var(--gap-3);
  align-items: center;
}
.panel {
  margin-top: var(--gap-4);
}
.failures {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-3);
  margin-top: var(--gap-4);
}
</style>

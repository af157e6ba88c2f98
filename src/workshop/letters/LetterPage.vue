<script setup lang="ts">
import { CopyPlus, Redo2, Send, Trash2, Undo2 } from '@lucide/vue'
import { ElButton, ElCheckbox, ElSkeleton } from 'element-plus'
import { computed, ref } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import type { LetterId, ListId, SendingId } from '#core/ids'
import { type LetterContent, type LetterReaders, type LetterTime, picturesOf, titleOf } from '#core/letter'
import { clientFor } from '../client'
import { newId } from '../clock'
import { vHint } from '../controls'
import Changes from '../controls/Changes.vue'
import Page from '../controls/Page.vue'
import Views from '../controls/Views.vue'
import { useWorkspace } from '../data'
import { useDocument, useUndoKeys } from '../document'
import Nowhere from '../Nowhere.vue'
import { useNotices } from '../notices'
import { useReceiver } from '../sync'
import { useTitle } from '../title'
import { useLetterLook } from './letter-look'
import LetterLook from './LetterLook.vue'
import LetterWriter from './LetterWriter.vue'
import { useMailOf } from './mail-of'
import ReadersPick from './ReadersPick.vue'
import SendLetter from './SendLetter.vue'
import { useLetters } from './store'

/** A letter in hand: written, looked at, sent. */
const props = defineProps<{ id: string }>()
const workspace = useWorkspace()
const letters = useLetters()
const receiver = useReceiver()
const notices = useNotices()
const router = useRouter()

const id = computed(() => props.id as LetterId)
const document = useDocument('letter', () => id.value)
useUndoKeys(() => document)
const content = computed(() => document.parts.value?.draft ?? null)
/** The one whose sender and looks it has; while none is chosen, it is shown with those of the first. */
const list = computed(() =>
  content.value === null ? null : (workspace.list(content.value.lists[0]!) ?? workspace.lists[0] ?? null),
)
const listNames = computed(() =>
  listed.format((content.value?.lists ?? []).flatMap((id) => workspace.list(id)?.name ?? [])),
)
/** Mail of the first list as it is sent; null while it sends none. */
const published = computed(() => (list.value === null ? null : (workspace.mail(list.value.id)?.published ?? null)))
const settings = useMailOf(list)
const title = computed(() => (content.value === null ? 'Letter' : titleOf(content.value, 'A letter without a subject')))
useTitle(() => title.value)
const look = useLetterLook(content, list, published)

const view = ref<'write' | 'look'>('write')
const views = computed(() => [
  { value: 'write' as const, label: 'The letter' },
  {
    value: 'look' as const,
    label: look.findings.value.length === 0 ? 'Before it goes' : `Before it goes, ${look.findings.value.length} to see`,
  },
])
/** The block in hand. */
const chosen = ref<string | null>(null)
function show(block: string): void {
  chosen.value = block
  view.value = 'write'
}
const isSending = ref(false)
const listed = new Intl.ListFormat('en-GB')
const change = (name: string, part: string, recipe: (content: LetterContent) => void) =>
  void document.change(name, part, ({ draft }) => recipe(draft))

/** Has the receiver have the letter’s pictures. */
async function tellAll(): Promise<void> {
  await document.whenKept()
  for (const picture of content.value === null ? [] : picturesOf(content.value)) await receiver.tell('picture', picture)
  await receiver.tell('letter', id.value)
}

async function send(when: LetterTime): Promise<void> {
  if (receiver.pairing === null || content.value === null) throw new Error('The workshop is not connected.')
  await tellAll()
  const client = clientFor({ ...receiver.pairing })
  const { sending } = await client.sendLetter({
    id: newId<SendingId>(),
    source: { kind: 'letter', id: id.value },
    content: content.value,
    when,
  })
  notices.done(when.kind === 'now' ? 'The letter is on its way.' : 'The letter goes at its time.')
  await letters.removeLetter(id.value)
  await router.push({ name: 'sending', params: { id: sending.id } })
}

async function double(): Promise<void> {
  if (content.value === null) return
  const made = await letters.startFrom(content.value)
  await router.push({ name: 'letter', params: { id: made.id } })
}
async function remove(): Promise<void> {
  const undo = await letters.removeLetter(id.value)
  await router.push({ name: 'letters' })
  notices.done(`“${title.value}” is thrown away.`, undo)
}
const whyNot = computed(() => {
  const [stop] = look.stops.value
  if (stop !== undefined) return stop.message
  return look.readers.value?.gets === 0 ? 'Nobody would get it.' : null
})
function ask(): void {
  if (whyNot.value === null) isSending.value = true
  else {
    view.value = 'look'
    notices.problem(`Not yet. ${whyNot.value}`)
  }
}
</script>

<template>
  <Nowhere v-if="letters.isLoaded && !letters.letters.some((one) => one.id === id)" />
  <Page v-else-if="content && list && settings" :title="title">
    <template #above><RouterLink :to="{ name: 'letters' }">Letters</RouterLink></template>
    <template #actions>
      <span class="row">
        <ElButton
          v-hint="`Undo: ${document.undoName.value ?? 'nothing'}`"
          text
          aria-label="Undo"
          :disabled="document.undoName.value === null"
          @click="document.undo()"
          ><Undo2 :size="18"
        /></ElButton>
        <ElButton
          v-hint="`Redo: ${document.redoName.value ?? 'nothing'}`"
          text
          aria-label="Redo"
          :disabled="document.redoName.value === null"
          @click="document.redo()"
          ><Redo2 :size="18"
        /></ElButton>
        <Changes>
          <ElButton v-hint="'Begin another with this one'" text aria-label="Double the letter" @click="double"
            ><CopyPlus :size="18"
          /></ElButton>
          <ElButton v-hint="'Throw it away'" text aria-label="Throw the letter away" @click="remove"
            ><Trash2 :size="18"
          /></ElButton>
          <ElButton type="primary" @click="ask"><Send :size="16" /><span>Send …</span></ElButton>
        </Changes>
      </span>
    </template>
    <Views v-model="view" label="Of this letter" :views="views" />
    <Changes v-if="view === 'write'">
      <LetterWriter
        v-model:chosen="chosen"
        :body="content"
        :list="list"
        :settings="settings"
        :undo="document"
        :change="(name, part, recipe) => change(name, part, recipe)"
      >
        <fieldset class="group">
          <legend>Who gets it</legend>
          <ReadersPick
            :lists="content.lists"
            :readers="content.readers"
            @update:lists="
              (lists: ListId[]) => change('Lists of the letter', 'lists', (one) => void (one.lists = lists))
            "
            @update:readers="
              (readers: LetterReaders) =>
                change('Readers of the letter', 'readers', (one) => void (one.readers = readers))
            "
          />
        </fieldset>
        <fieldset class="group">
          <legend>How it goes</legend>
          <ElCheckbox
            :model-value="content.isPlain"
            label="As plain text alone"
            @change="change('Plain text', 'plain', (one) => void (one.isPlain = Boolean($event)))"
          />
          <ElCheckbox
            :model-value="content.isInArchive"
            label="Among the letters that anybody can read"
            @change="change('In the archive', 'archive', (one) => void (one.isInArchive = Boolean($event)))"
          />
          <p v-if="content.isInArchive && receiver.publicUrl" class="quiet small">
            They stand at
            <a :href="`${receiver.publicUrl}/letters/${list.id}`" target="_blank" rel="noreferrer"
              >{{ receiver.publicUrl }}/letters/{{ list.id }}</a
            >, which can be linked or framed.
          </p>
          <ElCheckbox
            :model-value="content.countsLinks"
            label="Count presses of its links"
            @change="change('Count presses', 'counts', (one) => void (one.countsLinks = Boolean($event)))"
          />
          <p v-if="content.countsLinks" class="quiet small">
            In sums, of nobody by name. The letter says so at its end.
          </p>
        </fieldset>
      </LetterWriter>
    </Changes>
    <LetterLook
      v-else
      :content="content"
      :look="look"
      :list="list"
      :settings="settings"
      :before-trial="tellAll"
      @block="show($event)"
    />
    <SendLetter v-model="isSending" :readers="look.readers.value" :list-names="listNames" :send="send" />
  </Page>
  <ElSkeleton v-else class="page" :rows="8" animated />
</template>

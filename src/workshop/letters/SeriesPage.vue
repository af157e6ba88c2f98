<script setup lang="ts">
import { Pause, Play, Plus, Redo2, Trash2, Undo2 } from '@lucide/vue'
import { ElButton, ElCheckbox, ElInput, ElSkeleton } from 'element-plus'
import { computed, ref } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import { sameValue } from '#core/json'
import type { ListId, SeriesId } from '#core/ids'
import { inOrder, type LetterBody, type SeriesContent, seriesProblem, startLetter, titleOf } from '#core/letter'
import { newId } from '../clock'
import { vHint } from '../controls'
import Changes from '../controls/Changes.vue'
import Labelled from '../controls/Labelled.vue'
import NumberInput from '../controls/NumberInput.vue'
import Page from '../controls/Page.vue'
import Select from '../controls/Select.vue'
import { useWorkspace } from '../data'
import { useDocument, useUndoKeys } from '../document'
import Nowhere from '../Nowhere.vue'
import { useNotices } from '../notices'
import { useReceiver, useReceiverAnswer } from '../sync'
import { useTitle } from '../title'
import DayLine from './DayLine.vue'
import HourInput from './HourInput.vue'
import LetterWriter from './LetterWriter.vue'
import { useMailOf } from './mail-of'
import { useLetters } from './store'

/** A series in hand: a line of days since joining, and the letter of the day that is chosen. */
const props = defineProps<{ id: string }>()
const workspace = useWorkspace()
const letters = useLetters()
const receiver = useReceiver()
const notices = useNotices()
const router = useRouter()

const id = computed(() => props.id as SeriesId)
const series = computed(() => letters.series.find((one) => one.id === id.value) ?? null)
const document = useDocument('series', () => id.value)
useUndoKeys(() => document)
const content = computed(() => document.parts.value?.draft ?? null)
const list = computed(() => (content.value === null ? null : workspace.list(content.value.list)))
const settings = useMailOf(list)
useTitle(() => content.value?.name ?? null)
const { answer: state } = useReceiverAnswer((client) => client.seriesState(id.value), 5_000)

const steps = computed(() => (content.value === null ? [] : inOrder(content.value.steps)))
const chosenStep = ref<string | null>(null)
const step = computed(() => steps.value.find((one) => one.id === chosenStep.value) ?? steps.value[0] ?? null)
const change = (name: string, part: string, recipe: (content: SeriesContent) => void) =>
  void document.change(name, part, ({ draft }) => recipe(draft))
const changeStep = (name: string, part: string, recipe: (step: SeriesContent['steps'][number]) => void) => {
  const of = step.value?.id
  change(name, `${of} ${part}`, (draft) => {
    const found = draft.steps.find((one) => one.id === of)
    if (found !== undefined) recipe(found)
  })
}
const changeBody = (name: string, part: string, recipe: (body: LetterBody) => void) =>
  changeStep(name, part, (one) => recipe(one.body))
/** As many letters as a series may have. */
const MOST = 10

function add(): void {
  if (content.value === null || steps.value.length >= MOST) return
  const { subject, preview, isPlain, blocks } = startLetter('note', [content.value.list], () => newId<string>())
  const made = {
    ...{ id: newId<string>(), days: steps.value.length === 0 ? 1 : Math.min(365, steps.value.at(-1)!.days + 3) },
    ...{ time: '09:00', body: { subject, preview, isPlain, blocks } },
  }
  change('Add a letter', `add ${made.id}`, (draft) => draft.steps.push(made))
  chosenStep.value = made.id
}
function remove(): void {
  const of = step.value?.id
  change('Take a letter out', `remove ${of}`, (draft) => (draft.steps = draft.steps.filter((one) => one.id !== of)))
  chosenStep.value = null
}
const isPublished = computed(
  () => series.value !== null && content.value !== null && sameValue(content.value, series.value.published),
)
const problem = computed(() => {
  if (content.value === null) return null
  const said = seriesProblem(content.value)
  if (said !== null) return said
  return list.value !== null && (workspace.mail(list.value.id)?.published ?? null) === null
    ? 'The list sends no mail yet: set its sender up at the station Mail of one of its forms, and publish it.'
    : null
})
const isBusy = ref(false)
async function publish(): Promise<void> {
  if (problem.value !== null) {
    notices.problem(`Not begun. ${problem.value}`)
    return
  }
  isBusy.value = true
  try {
    await document.whenKept()
    const wasBegun = series.value?.published !== null
    await receiver.publish([{ kind: 'series', key: id.value }])
    notices.done(
      wasBegun
        ? 'The series goes on as it is now. Each goes on from where they are.'
        : 'The series has begun: who joins from now on gets it.',
    )
  } catch (error) {
    notices.problem(`Not begun: ${error instanceof Error ? error.message : 'no answer'}.`)
  } finally {
    isBusy.value = false
  }
}
async function pause(isPaused: boolean): Promise<void> {
  await letters.pauseSeries(id.value, isPaused)
  await receiver.tell('series', id.value)
  notices.done(isPaused ? 'Paused: nobody gets a letter of it meanwhile.' : 'The series goes on.')
}
async function removeSeries(): Promise<void> {
  await letters.removeSeries(id.value)
  await router.push({ name: 'letters', query: { view: 'series' } })
  notices.done('The series is taken away. Nobody gets more of it.')
}
const tags = computed(() => [
  { value: '', label: 'Everybody who joins' },
  ...[
    ...new Set(
      workspace.forms.filter((form) => form.list === content.value?.list).flatMap(({ draft }) => draft.tags ?? []),
    ),
  ].map((tag) => ({ value: tag, label: `Who joins with the tag “${tag}”` })),
])
const waitingFor = (step: string) => state.value?.next[step] ?? 0
</script>

<template>
  <Nowhere v-if="letters.isLoaded && series === null" />
  <Page v-else-if="content && list && settings" :title="content.name || 'A series without a name'">
    <template #above><RouterLink :to="{ name: 'letters', query: { view: 'series' } }">Letters</RouterLink></template>
    <template #below>
      <p class="quiet">
        {{
          series?.published === null
            ? 'Not begun yet.'
            : `${(state?.going ?? 0).toLocaleString('en-GB')} are under way, ${(state?.done ?? 0).toLocaleString('en-GB')} have had all of it.`
        }}
        {{ series?.isPaused ? 'It is paused.' : '' }}
      </p>
    </template>
    <template #actions>
      <span class="row">
        <ElButton text aria-label="Undo" :disabled="document.undoName.value === null" @click="document.undo()"
          ><Undo2 :size="18"
        /></ElButton>
        <ElButton text aria-label="Redo" :disabled="document.redoName.value === null" @click="document.redo()"
          ><Redo2 :size="18"
        /></ElButton>
        <Changes>
          <ElButton v-hint="'Take the series away'" text aria-label="Take the series away" @click="removeSeries"
            ><Trash2 :size="18"
          /></ElButton>
          <template v-if="series?.published">
            <ElButton v-if="series.isPaused" @click="pause(false)"><Play :size="16" /><span>Go on</span></ElButton>
            <ElButton v-else @click="pause(true)"><Pause :size="16" /><span>Pause</span></ElButton>
          </template>
          <ElButton type="primary" :loading="isBusy" :disabled="isPublished || undefined" @click="publish">{{
            series?.published ? (isPublished ? 'All of it goes out' : 'Use the changes') : 'Begin it'
          }}</ElButton>
        </Changes>
      </span>
    </template>
    <Changes>
      <DayLine
        :steps="steps"
        :chosen="step?.id ?? null"
        :list-name="list.name"
        :waiting-for="waitingFor"
        :can-add="steps.length < MOST"
        @choose="chosenStep = $event"
        @add="add"
      />
      <LetterWriter
        v-if="step"
        :key="step.id"
        :body="step.body"
        :list="list"
        :settings="settings"
        :undo="document"
        :change="changeBody"
      >
        <fieldset class="group">
          <legend>When this letter goes</legend>
          <div class="row">
            <Labelled label="Days after joining" hint="0 is the day itself.">
              <NumberInput
                :value="step.days"
                :least="0"
                :most="365"
                label="Days after joining"
                @change="changeStep('Day of a letter', 'days', (one) => void (one.days = $event ?? 0))"
              />
            </Labelled>
            <Labelled label="At, by the reader’s clock">
              <HourInput
                :model-value="step.time"
                label="At, by the reader’s clock"
                @update:model-value="changeStep('Hour of a letter', 'time', (one) => void (one.time = $event))"
              />
            </Labelled>
          </div>
          <ElButton class="start" text @click="remove"><Trash2 :size="15" /><span>Take this letter out</span></ElButton>
        </fieldset>
        <fieldset class="group">
          <legend>The series</legend>
          <Labelled label="Its name, for you">
            <ElInput
              :model-value="content.name"
              :maxlength="200"
              @update:model-value="change('Name of the series', 'name', (draft) => void (draft.name = $event))"
            />
          </Labelled>
          <Labelled label="For who joins">
            <Select
              :model-value="content.list"
              :options="workspace.lists.map((one) => ({ value: one.id, label: one.name }))"
              @update:model-value="
                (one) => one && change('List of the series', 'list', (draft) => void (draft.list = one as ListId))
              "
            />
          </Labelled>
          <Labelled label="Who of them">
            <Select
              :model-value="content.tag"
              :options="tags"
              @update:model-value="change('Tag of the series', 'tag', (draft) => void (draft.tag = $event))"
            />
          </Labelled>
          <ElCheckbox
            :model-value="content.includesThoseThere"
            :disabled="series?.published !== null || undefined"
            label="Who is there already begins too"
            @change="change('Who is there', 'there', (draft) => void (draft.includesThoseThere = Boolean($event)))"
          />
        </fieldset>
      </LetterWriter>
      <div v-else class="sheet empty">
        <p>A series has up to ten letters. Each goes some days after somebody joined, at an hour of their day.</p>
        <ElButton type="primary" @click="add"><Plus :size="18" /><span>Add the first letter</span></ElButton>
      </div>
    </Changes>
    <p v-if="step && titleOf(step.body, '') === ''" class="only-heard">This letter has no subject yet.</p>
  </Page>
  <ElSkeleton v-else class="page" :rows="8" animated />
</template>

<style scoped>
.empty {
  display: grid;
  justify-items: start;
  gap: var(--gap-3);
  padding: var(--gap-5);
}
.start {
  justify-self: start;
}
</style>

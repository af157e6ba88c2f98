<script setup lang="ts">
import { wayBackTo } from '#core/render'
import { useElementSize, useLocalStorage } from '@vueuse/core'
import { ElTabPane, ElTabs } from 'element-plus'
import { computed, ref, shallowRef, useTemplateRef, watch } from 'vue'
import type { FieldKey, Form, FormContent } from '#core/form'
import type { StationState } from '#core/line'
import { useRested } from '../../rest'
import type { Draft } from '../draft'
import { useMeasures } from '../../measuring'
import { usePictures, useWorkspace } from '../../data'
import type { Scene, Surroundings, Visitor } from '../../preview'
import Changes from '../../controls/Changes.vue'
import AllWidths from '../../preview/AllWidths.vue'
import CheckupPanel from './checkup/CheckupPanel.vue'
import FieldsPanel from './fields/FieldsPanel.vue'
import FormPreview from './FormPreview.vue'
import LookPanel from './look/LookPanel.vue'
import PagePanel from './page/PagePanel.vue'
import PreviewOptions from '../../preview/PreviewOptions.vue'
import RichBar from '../../controls/RichBar.vue'
import ShapePanel from './shape/ShapePanel.vue'
import WidthRuler from '../../preview/WidthRuler.vue'
import WordsPanel from './words/WordsPanel.vue'
import type { TextEditor } from '../../writing'
import { useKeptInView } from './keep-in-view'
import type { WritablePart } from './writing-in'

/** Where the form itself is worked on: the preview on one side, the drawers of its controls on the other. */
const { form, draft, content, state } = defineProps<{
  form: Form
  draft: Draft
  content: FormContent
  state?: StationState
}>()

const DRAWERS_REST_MS = 150
type Drawer = 'shape' | 'words' | 'fields' | 'look' | 'page' | 'checkup'
const workspace = useWorkspace()
const pictures = usePictures()
const drawer = ref<Drawer>('words')
/** Told to the page, so that what the checkup says is not said twice. */
const emit = defineEmits<{ checking: [is: boolean] }>()
watch(drawer, (now) => emit('checking', now === 'checkup'), { immediate: true })
const field = ref<FieldKey | null>(null)
const lookPart = ref('')
const isLanding = computed(() => workspace.isPage(form.id))
const popUp = computed(() => workspace.popUpOf(form.id))
const isWithinPages = computed(() => workspace.isWithinPages(form.id))
const drawers = computed<{ value: Drawer; label: string }[]>(() => [
  { value: 'shape', label: 'Shape' },
  { value: 'words', label: 'Words' },
  { value: 'fields', label: 'Fields' },
  { value: 'look', label: 'Look' },
  ...(isLanding.value ? [{ value: 'page' as const, label: 'Page' }] : []),
  { value: 'checkup', label: `Checkup ${state?.findings.length ? `(${state.findings.length})` : ''}` },
])

const hasFaults = computed(() => state?.findings.some(({ weight }) => weight !== 'hint') ?? false)

const width = ref(680)
const showsPage = ref(false)
// A page of its own is first looked at as a page; from then on the ruler is the owner's.
watch(isLanding, (is) => (showsPage.value = is), { immediate: true })
/** As wide as the place where it stands first: a side column's form is looked at as one. */
const ownWidth = computed(() => {
  const first = workspace.spotsOf(form.id).find(({ state, kind }) => state === 'live' && kind !== 'landing')
  return { sidebar: 280, footer: 1100, inline: 680, 'after-post': 680, landing: 680, 'pop-up': 520 }[
    first?.kind ?? 'inline'
  ]
})
watch(showsPage, (shows) => (width.value = shows ? 1280 : ownWidth.value), { immediate: true })
const showsAll = ref(false)
const visitor = ref<Visitor>('new')
const around = useLocalStorage<Exclude<Surroundings, 'none'>>('askbox-surroundings', 'site')
const surroundings = computed<Surroundings>({
  get: () => (showsPage.value ? 'none' : around.value),
  set(chosen) {
    showsPage.value = chosen === 'none'
    if (chosen !== 'none') around.value = chosen
  },
})
const surroundingsOffered = computed<Surroundings[]>(() => [
  ...(isLanding.value ? ['none' as const] : []),
  ...(isLanding.value && !isWithinPages.value ? [] : ['site' as const, 'light' as const, 'dark' as const]),
])
const isMeddlesome = ref(false)
const editor = shallowRef<TextEditor | null>(null)
const isWriting = ref(false)
/** What the drawers show: while somebody writes in the preview, they follow when the hands rest. */
const rested = useRested(() => content, DRAWERS_REST_MS)
const beside = computed(() => (isWriting.value ? rested.value : content))
const richBar = useTemplateRef('richBar')
const stage = useTemplateRef('stage')
const { width: room } = useElementSize(stage)
const work = useTemplateRef('work')
const controls = useTemplateRef('controls')
const workTop = useKeptInView(work)
const controlsTop = useKeptInView(controls)

const grounds = computed(() => {
  const { background, text } = workspace.paletteOf(form.id)
  return {
    site: { background, text },
    light: { background: '#ffffff', text: '#222222' },
    dark: { background: '#16181d', text: '#e6e6e6' },
  }
})
/** What a mend would make of the form, while its owner looks at it. */
const previewed = shallowRef<FormContent | null>(null)
// What is done meanwhile, an undo for instance, is what there is to see.
watch(
  () => content,
  () => (previewed.value = null),
)
const landingSite = computed(() => {
  const spot = workspace.spotsOf(form.id).find(({ kind }) => kind === 'landing')
  const site = spot === undefined ? null : workspace.site(spot.site)
  return site === null ? null : wayBackTo(site)
})
const scene = computed((): Scene => ({
  content: previewed.value ?? content,
  form: form.id,
  pictureAddress: pictures.addressOf,
  visitor: visitor.value,
  surroundings: grounds.value[around.value],
  isMeddlesome: isMeddlesome.value,
  isLanding: showsPage.value,
  site: landingSite.value,
  popUp: popUp.value,
}))
useMeasures(
  () => form.id,
  () => content,
)

function openField(key: FieldKey): void {
  drawer.value = 'fields'
  field.value = key
}

/** What was pressed in the preview brings its controls: those of its look while looks are worked on. */
function openPart(part: WritablePart): void {
  const looks = { field: 'field', button: 'button', words: 'type', picture: 'ground', ground: 'colours' }
  if (drawer.value === 'look' || part.kind === 'ground' || part.kind === 'button') {
    drawer.value = 'look'
    lookPart.value = looks[part.kind]
  } else if (part.kind === 'field') openField(part.key)
  else drawer.value = 'words'
}
</script>

<template>
  <section class="station" aria-label="Form">
    <div ref="work" class="work" :style="{ top: workTop }">
      <WidthRuler v-model="width" v-model:shows-all="showsAll" />
      <div class="row bars">
        <RichBar ref="richBar" :editor="editor" />
        <PreviewOptions
          v-model:visitor="visitor"
          v-model:surroundings="surroundings"
          :surroundings-offered="surroundingsOffered"
          v-model:is-meddlesome="isMeddlesome"
        />
      </div>
      <AllWidths v-if="showsAll" :scene="scene" />
      <div v-else ref="stage" class="stage" :style="{ background: grounds[around].background }">
        <FormPreview
          v-if="room > 0"
          :key="`${form.id} ${showsPage} ${visitor === 'known'}`"
          :scene="scene"
          :draft="draft"
          :width="width"
          :room="room"
          v-model:writing="isWriting"
          @part="openPart"
          @editor="editor = $event"
          @link="richBar?.startLink()"
        />
      </div>
      <p class="quiet small">
        <template v-if="previewed"><b>This is how it would look.</b> Press the button to take it.</template>
        <template v-else
          >This is the form itself. Press any text in it to rewrite it; type into a field to change its
          example.</template
        ><template v-if="visitor === 'errors'">
          {{ ' ' }}In plain code, visitors first see what is missing in their browser’s own words; yours come where the
          browser says nothing, on landing pages, and when the form is shown again.</template
        >
        {{ ' '
        }}<span v-if="!showsAll && room > 0 && room < width"
          >Shown at {{ Math.round((room / width) * 100) }} % of its size.</span
        >
      </p>
    </div>
    <div ref="controls" class="controls" :style="{ top: controlsTop }">
      <ElTabs v-model="drawer" class="drawers">
        <ElTabPane v-for="one in drawers" :key="one.value" :name="one.value">
          <template #label>
            <span :class="{ alert: one.value === 'checkup' && hasFaults }">{{ one.label }}</span>
          </template>
          <div v-if="drawer === one.value" class="drawer">
            <Changes>
              <ShapePanel v-if="drawer === 'shape'" :form="form" :content="beside" :draft="draft" />
              <WordsPanel v-else-if="drawer === 'words'" :content="beside" :draft="draft" />
              <FieldsPanel
                v-else-if="drawer === 'fields'"
                v-model:current="field"
                :form="form"
                :content="beside"
                :draft="draft"
              />
              <LookPanel
                v-else-if="drawer === 'look'"
                v-model:part="lookPart"
                :form="form"
                :content="beside"
                :draft="draft"
              />
              <PagePanel v-else-if="drawer === 'page'" :content="beside" :draft="draft" />
              <CheckupPanel
                v-else
                :content="beside"
                :findings="state?.findings ?? []"
                @field="openField"
                @preview="previewed = $event"
              />
            </Changes>
          </div>
        </ElTabPane>
      </ElTabs>
    </div>
  </section>
</template>

<style scoped>
.station {
  grid-template-columns: minmax(0, 1fr) 372px;
  gap: var(--gap-5);
}
.bars {
  justify-content: space-between;
  padding-block: var(--gap-1);
  background: var(--paper);
}
@media (min-width: 1001px) {
  .bars {
    position: sticky;
    z-index: 1;
    top: 0;
  }
  .station > * {
    position: sticky;
    align-self: start;
  }
}
.stage {
  display: flex;
  justify-content: center;
  padding-block: var(--gap-2);
  border: 1px solid var(--hairline);
  border-radius: var(--corner);
}
.alert {
  color: var(--raspberry);
}
.drawer {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-5);
  align-content: start;
}
@media (max-width: 1000px) {
  .station {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>

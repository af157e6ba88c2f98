<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { ElButton, ElDialog, ElTable, ElTableColumn } from 'element-plus'
import { computed, ref, useTemplateRef } from 'vue'
import { differences, type Form, type FormContent } from '#core/form'
import type { Draft } from './draft'
import { useNotices } from '../notices'
import Select from '../controls/Select.vue'
import { usePictures, useWorkspace } from '../data'
import { lowerFirst, shownMoment } from '../controls'
import { formAlone, formInText, type Scene } from '../preview'
import ScaledPreview from '../preview/ScaledPreview.vue'
import { stacked } from '../controls'

/** Published versions beside each other and beside the draft: what differs, and how each looks. Any can be brought back. */
const { form, draft } = defineProps<{ form: Form; draft: Draft }>()
const emit = defineEmits<{ close: [] }>()

const groups = { words: 'Words', fields: 'Fields', look: 'Look', answers: 'Answers' } as const
const workspace = useWorkspace()
const pictures = usePictures()
const notices = useNotices()
const isOpen = ref(true)
const place = useTemplateRef('place')
const { width: room } = useElementSize(place)

/** What is a page of its own is compared as one. */
const isLanding = computed(() => workspace.isPage(form.id))
const width = computed(() => (isLanding.value ? 1280 : 680))
const versions = computed(() => [...workspace.allVersionsOf(form.id)].sort((one, other) => other.number - one.number))
const DRAFT = 0
const left = ref(versions.value[1]?.number ?? versions.value[0]?.number ?? DRAFT)
const right = ref(DRAFT)
const choices = computed(() => [
  { value: DRAFT, label: 'The draft' },
  ...versions.value.map(({ number, publishedAt, isTried }) => ({
    value: number,
    label: `Version ${number}, ${isTried ? 'tried from ' : ''}${shownMoment(publishedAt)}`,
  })),
])
const contentOf = (number: number): FormContent =>
  versions.value.find((one) => one.number === number)?.content ?? draft.content.value!
const nameOf = (number: number) => (number === DRAFT ? 'The draft' : `Version ${number}`)
const differing = computed(() =>
  differences(contentOf(left.value), contentOf(right.value)).map(({ about, what, before, after }) => ({
    what: `${groups[about]}: ${what}`,
    before: before || '–',
    after: after || '–',
  })),
)
const sides = computed(() =>
  [left.value, right.value].map((number) => ({
    number,
    page: pageOf({
      content: contentOf(number),
      form: form.id,
      pictureAddress: pictures.addressOf,
      isLanding: isLanding.value,
    }),
  })),
)
const pageOf = (scene: Scene) => (scene.isLanding ? formInText : formAlone)(scene)

function restore(number: number): void {
  const content = contentOf(number)
  draft.change(`Bring back version ${number}`, 'restore', (changed) => Object.assign(changed, structuredClone(content)))
  notices.done(
    `The draft is version ${number} again. Publish it to show it to visitors.`,
    draft.undo,
    draft.isStillLast(),
  )
  isOpen.value = false
}
</script>

<template>
  <ElDialog
    v-model="isOpen"
    title="Published versions"
    width="min(1040px, 94vw)"
    append-to-body
    @closed="emit('close')"
  >
    <p v-if="versions.length === 0">Nothing is published yet. Every publishing keeps a version here.</p>
    <template v-else>
      <div ref="place" class="sides">
        <div v-for="(side, at) in sides" :key="at" class="side">
          <Select
            :label="at === 0 ? 'On the left' : 'On the right'"
            :model-value="side.number"
            :options="choices"
            @update:model-value="at === 0 ? (left = Number($event)) : (right = Number($event))"
          />
          <ScaledPreview
            v-if="room > 0"
            :page="side.page"
            :width="width"
            :scale="(room - 24) / 2 / width"
            :most="260"
          />
          <div>
            <ElButton v-if="side.number !== DRAFT" size="small" @click="restore(side.number)"
              >Bring back version {{ side.number }}</ElButton
            >
          </div>
        </div>
      </div>
      <p v-if="differing.length === 0" class="quiet">
        {{ nameOf(left) }} and {{ lowerFirst(nameOf(right)) }} are the same.
      </p>
      <ElTable v-bind="stacked" v-else :data="differing" table-layout="auto">
        <ElTableColumn prop="what" label="What" />
        <ElTableColumn prop="before" :label="nameOf(left)" class-name="value" />
        <ElTableColumn prop="after" :label="nameOf(right)" class-name="value" />
      </ElTable>
    </template>
  </ElDialog>
</template>

<style scoped>
.sides {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: var(--gap-5);
  margin-bottom: var(--gap-4);
}
.side {
  display: grid;
  gap: var(--gap-2);
  align-content: start;
}
:deep(.value) {
  width: 36%;
  white-space: pre-line;
  overflow-wrap: anywhere;
}
</style>

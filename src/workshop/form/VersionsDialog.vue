<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { ElButton } from 'element-plus'
import { computed, onMounted, ref, useTemplateRef } from 'vue'
import { differences, type Form, type FormContent } from '#core/form'
import type { Draft } from './draft'
import { useNotices } from '../shell/notices'
import { usePictures } from '../data/pictures'
import { useWorkspace } from '../data/workspace'
import { shownMoment } from '../controls/shown'
import { formDocument, pageDocument, type Scene } from '../preview/scenes'
import ScaledPreview from '../preview/ScaledPreview.vue'

/** Published versions beside each other and beside the draft: what differs, and how each looks. Any can be brought back. */
const { form, draft } = defineProps<{ form: Form; draft: Draft }>()
const emit = defineEmits<{ close: [] }>()

const workspace = useWorkspace()
const pictures = usePictures()
const notices = useNotices()
const dialog = useTemplateRef('dialog')
const place = useTemplateRef('place')
const { width: room } = useElementSize(place)
onMounted(() => dialog.value?.showModal())

/** What is a page of its own is compared as one. */
const isLanding = computed(() => workspace.isPage(form.id))
const width = computed(() => (isLanding.value ? 1280 : 680))
const versions = computed(() => [...workspace.versionsOf(form.id)].sort((one, other) => other.number - one.number))
const DRAFT = 0
const left = ref(versions.value[1]?.number ?? versions.value[0]?.number ?? DRAFT)
const right = ref(DRAFT)
const contentOf = (number: number): FormContent =>
  versions.value.find((one) => one.number === number)?.content ?? draft.content.value!
const nameOf = (number: number) => (number === DRAFT ? 'The draft' : `Version ${number}`)
const found = computed(() => differences(contentOf(left.value), contentOf(right.value)))
const sides = computed(() =>
  [left.value, right.value].map((number) => ({
    number,
    html: documentOf({
      content: contentOf(number),
      form: form.id,
      pictureAddress: pictures.addressOf,
      isLanding: isLanding.value,
    }),
  })),
)
const documentOf = (scene: Scene) => (scene.isLanding ? pageDocument : formDocument)(scene)
const groups = { words: 'Words', fields: 'Fields', look: 'Look', answers: 'Answers' } as const

function restore(number: number): void {
  const content = contentOf(number)
  draft.change(`Bring back version ${number}`, 'restore', (changed) => Object.assign(changed, structuredClone(content)))
  notices.done(
    `The draft is version ${number} again. Publish it to show it to visitors.`,
    draft.undo,
    draft.isStillLast(),
  )
  dialog.value?.close()
}
</script>

<template>
  <dialog ref="dialog" class="dialog versions" aria-labelledby="versions-title" @close="emit('close')">
    <header class="row">
      <h2 id="versions-title">Published versions</h2>
      <ElButton text @click="dialog?.close()">Close</ElButton>
    </header>
    <p v-if="versions.length === 0">Nothing is published yet. Every publishing keeps a version here.</p>
    <template v-else>
      <div ref="place" class="sides">
        <div v-for="(side, at) in sides" :key="at" class="side">
          <label class="field">
            <span class="only-heard">{{ at === 0 ? 'On the left' : 'On the right' }}</span>
            <select
              class="plain-select"
              :value="side.number"
              @change="
                at === 0
                  ? (left = Number(($event.target as HTMLSelectElement).value))
                  : (right = Number(($event.target as HTMLSelectElement).value))
              "
            >
              <option :value="DRAFT">The draft</option>
              <option v-for="version in versions" :key="version.number" :value="version.number">
                Version {{ version.number }}, {{ shownMoment(version.publishedAt) }}
              </option>
            </select>
          </label>
          <ScaledPreview
            v-if="room > 0"
            :html="side.html"
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
      <p v-if="found.length === 0" class="quiet">
        {{ nameOf(left) }} and {{ nameOf(right).toLowerCase() }} are the same.
      </p>
      <table v-else class="plain-table small">
        <thead>
          <tr>
            <th>What</th>
            <th>{{ nameOf(left) }}</th>
            <th>{{ nameOf(right) }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(one, at) in found" :key="at">
            <td>
              <span class="quiet">{{ groups[one.about] }}</span> {{ one.what }}
            </td>
            <td class="value">{{ one.before || '–' }}</td>
            <td class="value">{{ one.after || '–' }}</td>
          </tr>
        </tbody>
      </table>
    </template>
  </dialog>
</template>

<style scoped>
.versions {
  width: min(1040px, 94vw);
  max-height: 90vh;
  overflow: auto;
}
header {
  justify-content: space-between;
  margin-bottom: var(--gap-3);
}
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
.value {
  width: 36%;
  white-space: pre-line;
  overflow-wrap: anywhere;
}
</style>

<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, useTemplateRef } from 'vue'
import { type Form, type FormContent, reshaped, shapes, type Shape, startContent } from '#core/form'
import type { Draft } from '../draft'
import { usePictures } from '../../data/pictures'
import { useWorkspace } from '../../data/workspace'
import { formDocument } from '../../preview/scenes'
import ScaledPreview from '../../preview/ScaledPreview.vue'

/** The start shapes as they would really look, in the site's own colours. */
const { form, content, draft } = defineProps<{ form: Form; content: FormContent; draft: Draft }>()

const WIDTH = 640
const workspace = useWorkspace()
const pictures = usePictures()
const place = useTemplateRef('place')
const { width: room } = useElementSize(place)
const palette = computed(() => workspace.paletteOf(form.id))
const shown = computed(() =>
  shapes.map((shape) => ({
    shape,
    html: formDocument({
      content: startContent('Our letter', shape, palette.value, content.language),
      form: form.id,
      pictureAddress: pictures.addressOf,
    }),
  })),
)

function choose(shape: Shape): void {
  draft.change(`Take the shape “${shape.name}”`, 'shape', (changed) =>
    Object.assign(changed, reshaped(changed, shape, palette.value)),
  )
}
</script>

<template>
  <div class="shapes">
    <p class="quiet small">
      A shape sets the look, and sample words where you have written none. Your own words, fields and pictures stay.
    </p>
    <ul ref="place">
      <li v-for="{ shape, html } in shown" :key="shape.key">
        <button type="button" :aria-pressed="content.shape === shape.key" @click="choose(shape)">
          <span class="name">{{ shape.name }}</span>
          <span class="quiet small">{{ shape.purpose }}</span>
          <ScaledPreview v-if="room > 0" :html="html" :width="WIDTH" :scale="(room - 26) / WIDTH" :most="150" />
        </button>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.shapes,
ul {
  display: grid;
  gap: var(--gap-3);
}
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
button {
  display: grid;
  gap: var(--gap-1);
  width: 100%;
  padding: var(--gap-2) var(--gap-3) var(--gap-3);
  border: 1px solid var(--hairline);
  border-radius: var(--corner);
  background: var(--sheet);
  color: var(--ink);
  text-align: start;
  cursor: pointer;
}
button:hover {
  border-color: var(--ink);
}
button[aria-pressed='true'] {
  border-color: var(--moss);
  background: var(--moss-wash);
}
.name {
  font-weight: 650;
}
</style>

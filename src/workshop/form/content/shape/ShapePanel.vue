<script setup lang="ts">
import { computed } from 'vue'
import { type Form, type FormContent, reshaped, type Shape } from '#core/form'
import type { Draft } from '../../draft'
import { useWorkspace } from '../../../data'
import ShapeTiles from '../../../preview/ShapeTiles.vue'

/** The start shapes as they would really look, in the site's own colours. */
const { form, content, draft } = defineProps<{ form: Form; content: FormContent; draft: Draft }>()

const workspace = useWorkspace()
const palette = computed(() => workspace.paletteOf(form.id))

function choose(shape: Shape): void {
  draft.change(`Take the shape “${shape.name}”`, 'shape', (changed) =>
    Object.assign(changed, reshaped(changed, shape, palette.value)),
  )
}
</script>

<template>
  <p class="quiet small">
    A shape sets the look, and sample words where you have written none. Your own words, fields and pictures stay.
  </p>
  <ShapeTiles
    label="Start shapes"
    :chosen="content.shape"
    :palette="palette"
    :language="content.language"
    @choose="choose"
  />
</template>

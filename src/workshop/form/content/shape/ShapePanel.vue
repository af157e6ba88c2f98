<script setup lang="ts">
import { computed, ref } from 'vue'
import { ElButton } from 'element-plus'
import { type Form, type FormContent, reshaped, type Shape, shapes, shapesFor, takesMessages } from '#core/form'
import { spotKinds } from '#core/spot'
import type { Draft } from '../../draft'
import { useWorkspace } from '../../../data'
import ShapeTiles from '../../../preview/ShapeTiles.vue'

/** The start shapes as they would really look, in the site's own colours. */
const { form, content, draft } = defineProps<{ form: Form; content: FormContent; draft: Draft }>()

const workspace = useWorkspace()
const palette = computed(() => workspace.paletteOf(form.id))
const kinds = computed(() => workspace.spots.filter((spot) => spot.form === form.id).map(({ kind }) => kind))
const places = computed(() =>
  spotKinds.filter(({ kind }) => kinds.value.includes(kind)).map(({ name }) => name.toLowerCase()),
)
/** Where it sits was chosen before: shapes that are made for it, with the present one. */
const fitting = computed(() => {
  const made = shapesFor(kinds.value)
  return possible.value.filter((shape) => made.includes(shape) || shape.key === content.shape)
})
/** Whether people write to the owner is said at Fields: a look decides on nothing that anybody joins. */
const possible = computed(() => shapes.filter((shape) => !shape.takesMessages || takesMessages(content)))
const isAll = ref(false)
const shown = computed(() => (isAll.value || kinds.value.length === 0 ? possible.value : fitting.value))

function choose(shape: Shape): void {
  draft.change(`Take the shape “${shape.name}”`, 'shape', (changed) =>
    Object.assign(changed, reshaped(changed, shape, palette.value)),
  )
}
</script>

<template>
  <p class="quiet small">
    A shape sets the look, and sample words where you have written none. Your own words, fields and pictures stay.
    <template v-if="shown.length < possible.length"
      >These are made for where it sits ({{ places.join(', ') }}).
      <ElButton link size="small" @click="isAll = true">Show those for other places too</ElButton></template
    >
  </p>
  <ShapeTiles
    :shapes="shown"
    :is-narrow="kinds.length > 0 && kinds.every((kind) => kind === 'sidebar')"
    label="Start shapes"
    :chosen="content.shape"
    :palette="palette"
    :language="content.language"
    @choose="choose"
  />
</template>

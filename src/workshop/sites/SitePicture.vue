<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, useTemplateRef } from 'vue'
import { quietPalette } from '#core/look'
import type { Site } from '#core/site'
import { startPopUp } from '#core/spot'
import { usePictures, useWorkspace } from '../data'
import ScaledPreview from '../preview/ScaledPreview.vue'
import { siteWith, windows } from '../preview'

/** A small drawn page of the site, in its colours, with its forms in their places. */
const { site } = defineProps<{ site: Site }>()
const workspace = useWorkspace()
const pictures = usePictures()
const forms = computed(() =>
  workspace.spots
    .filter((spot) => spot.site === site.id && spot.state === 'live' && spot.kind !== 'landing')
    .flatMap((spot) => {
      const form = workspace.form(spot.form)
      if (form === null || form.isArchived) return []
      // In a corner, so that it leaves the others in sight.
      const popUp = { ...(spot.popUp ?? startPopUp), position: 'bottom-end' as const }
      return [{ id: spot.id, content: form.draft, kind: spot.kind, popUp }]
    }),
)
const page = computed(() =>
  siteWith(forms.value, { name: site.name, palette: site.palette ?? quietPalette }, 'desk', pictures.addressOf),
)
const { width: room } = useElementSize(useTemplateRef('room'))
const scale = computed(() => room.value / windows.desk.width)
</script>

<template>
  <div ref="room" class="picture">
    <ScaledPreview
      v-if="room > 0"
      :page="page"
      :width="windows.desk.width"
      :scale="scale"
      :most="windows.desk.height * scale"
    />
  </div>
</template>

<style scoped>
.picture {
  overflow: hidden;
  border: 1px solid var(--hairline);
  border-radius: var(--corner);
}
</style>

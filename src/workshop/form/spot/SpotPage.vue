<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref, useTemplateRef } from 'vue'
import type { FormContent } from '#core/form'
import { quietPalette } from '#core/look'
import type { Site } from '#core/site'
import { type Spot, spotKinds, startPopUp } from '#core/spot'
import Views from '../../controls/Views.vue'
import { usePictures } from '../../data'
import ScaledPreview from '../../preview/ScaledPreview.vue'
import { placeFindings, sitePage, type Window, windows } from '../../preview'
import FormHeights from './FormHeights.vue'

/** The form in its place on a drawn page of its site, and what does not go well together there. */
const { spot, site, content } = defineProps<{ spot: Spot; site: Site | null; content: FormContent }>()
const pictures = usePictures()
const shown = ref<Window>('desk')
const options = [
  { value: 'desk', label: 'Desk' },
  { value: 'phone', label: 'Phone' },
] as const
const drawn = computed(() => ({ content, kind: spot.kind, popUp: spot.popUp ?? startPopUp }))
const drawnSite = computed(() => ({ name: site?.name ?? 'Your site', palette: site?.palette ?? quietPalette }))
const page = computed(() => sitePage(drawn.value, drawnSite.value, shown.value, pictures.addressOf))
const { width: room } = useElementSize(useTemplateRef('room'))
const scale = computed(() => Math.min(1, room.value / windows[shown.value].width))
const heights = ref<Record<number, number>>({})
const sticksOut = ref<Record<number, number>>({})
const widths = computed(() => {
  const own = spotKinds.find(({ kind }) => kind === spot.kind)?.widths ?? []
  return spot.kind === 'pop-up' ? [358, 544] : own.slice(0, 1)
})
const findings = computed(() => placeFindings(drawn.value, drawnSite.value, heights.value, sticksOut.value))
</script>

<template>
  <div class="drawn">
    <div class="row head">
      <h3>In its place</h3>
      <Views v-model="shown" label="Shown on" :views="options" />
    </div>
    <div ref="room" class="room">
      <ScaledPreview
        v-if="room > 0"
        :page="page"
        :width="windows[shown].width"
        :scale="shown === 'phone' ? Math.min(scale, 0.62) : scale"
        :most="460"
      />
    </div>
    <ul v-if="findings.length > 0" class="small findings">
      <li v-for="finding in findings" :key="finding">{{ finding }}</li>
    </ul>
    <FormHeights v-model="heights" v-model:sticks-out="sticksOut" :spot="spot" :content="content" :widths="widths" />
  </div>
</template>

<style scoped>
.drawn {
  position: relative;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-2);
  align-content: start;
}
.head {
  justify-content: space-between;
}
.findings {
  margin: 0;
  padding-inline-start: 1.1em;
  color: var(--raspberry);
}
</style>

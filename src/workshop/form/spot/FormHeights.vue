<script setup lang="ts">
import { computed } from 'vue'
import type { FormContent } from '#core/form'
import { framePage } from '#core/render'
import type { Spot } from '#core/spot'
import { usePictures } from '../../data'
import ScaledPreview from '../../preview/ScaledPreview.vue'

/** Draws a form alone at some widths, out of sight, and says how high it is at each, and how far it sticks out, in CSS pixels. */
const { spot, content, widths } = defineProps<{ spot: Spot; content: FormContent; widths: readonly number[] }>()
const heights = defineModel<Record<number, number>>({ required: true })
const sticksOut = defineModel<Record<number, number>>('sticksOut', { default: () => ({}) })
const pictures = usePictures()
const placed = computed(() => ({
  content,
  form: spot.form,
  version: 1,
  spot: spot.id,
  receiver: '',
  pictureAddress: pictures.addressOf,
  showsNoVideo: true,
}))
const page = computed(() => framePage(placed.value, { values: {}, errors: {} }))
</script>

<template>
  <div class="measured" aria-hidden="true">
    <ScaledPreview
      v-for="width in widths"
      :key="width"
      :page="page"
      :width="width"
      :scale="1"
      @height="heights = { ...heights, [width]: $event }"
      @sticks-out="sticksOut = { ...sticksOut, [width]: $event }"
    />
  </div>
</template>

<style scoped>
.measured {
  position: absolute;
  width: 0;
  height: 0;
  overflow: hidden;
  visibility: hidden;
}
</style>

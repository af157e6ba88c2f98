<script setup lang="ts">
import { computed } from 'vue'
import type { FormContent } from '#core/form'
import type { Spot } from '#core/spot'
import { usePictures } from '../../data'
import OutOfSight from '../../preview/OutOfSight.vue'
import ScaledPreview from '../../preview/ScaledPreview.vue'
import { formInFrame } from '../../preview'

/** Draws a form alone at some widths, out of sight, and says how high it is at each, and how far it sticks out, in CSS pixels. */
const { spot, content, widths } = defineProps<{ spot: Spot; content: FormContent; widths: readonly number[] }>()
const heights = defineModel<Record<number, number>>({ required: true })
const sticksOut = defineModel<Record<number, number>>('sticksOut', { default: () => ({}) })
const pictures = usePictures()
const page = computed(() => formInFrame({ content, form: spot.form, pictureAddress: pictures.addressOf }))
</script>

<template>
  <OutOfSight>
    <ScaledPreview
      v-for="width in widths"
      :key="width"
      :page="page"
      :width="width"
      :scale="1"
      @height="heights = { ...heights, [width]: $event }"
      @sticks-out="sticksOut = { ...sticksOut, [width]: $event }"
    />
  </OutOfSight>
</template>

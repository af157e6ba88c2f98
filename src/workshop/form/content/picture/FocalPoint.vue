<script setup lang="ts">
import type { PictureUse } from '#core/picture'
import RangeInput from '../../../controls/RangeInput.vue'
import { usePictures } from '../../../data'

/** What matters in a picture: where it is cut to fit, that stays in sight. Pressed on the picture, or set by numbers. */
const point = defineModel<{ x: number; y: number }>({ required: true })
const { picture } = defineProps<{ picture: PictureUse }>()
const pictures = usePictures()

function press(event: MouseEvent): void {
  const { left, top, width, height } = (event.currentTarget as HTMLElement).getBoundingClientRect()
  const share = (at: number, size: number) => Math.round(Math.min(1, Math.max(0, at / size)) * 100)
  point.value = { x: share(event.clientX - left, width), y: share(event.clientY - top, height) }
}
</script>

<template>
  <div class="focal" role="group" aria-label="What matters in the picture">
    <p class="small quiet">Where it is cut to fit, this stays in sight. Press what matters:</p>
    <!-- The sliders below do the same from the keyboard. -->
    <span class="picture" @click="press">
      <img :src="pictures.addressOf(picture)" alt="" />
      <i :style="{ insetInlineStart: `${point.x}%`, insetBlockStart: `${point.y}%` }" />
    </span>
    <RangeInput
      name="From the left"
      unit="%"
      :least="0"
      :most="100"
      :value="point.x"
      @change="point = { ...point, x: $event }"
    />
    <RangeInput
      name="From the top"
      unit="%"
      :least="0"
      :most="100"
      :value="point.y"
      @change="point = { ...point, y: $event }"
    />
  </div>
</template>

<style scoped>
.focal {
  display: grid;
  gap: var(--gap-2);
}
p {
  margin: 0;
}
.picture {
  position: relative;
  display: block;
  direction: ltr;
  cursor: crosshair;
}
img {
  display: block;
  width: 100%;
  border-radius: var(--corner);
}
i {
  position: absolute;
  width: 22px;
  height: 22px;
  margin: -11px;
  border: 2px solid var(--paper);
  border-radius: 50%;
  background: color-mix(in srgb, var(--raspberry) 45%, transparent);
  box-shadow: 0 0 0 1px var(--ink);
  pointer-events: none;
}
</style>

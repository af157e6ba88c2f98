<script setup lang="ts">
import { computed, ref, shallowRef } from 'vue'
import { frameCode, type FrameSize, type PlaceHeights } from '#core/embed'
import type { FormContent } from '#core/form'
import { type Spot, spotKinds } from '#core/spot'
import Choice from '../../controls/Choice.vue'
import CodeBlock from '../../embed/CodeBlock.vue'
import type { StandInPlace } from '../../embed/stand-in'
import TallestRoom from '../../preview/TallestRoom.vue'

/** A frame with the form, of the size that the form really needs: it is drawn at each width, out of sight, and measured. */
const { spot, content, address } = defineProps<{
  spot: Spot
  content: FormContent
  address: string
  paste: StandInPlace | null
}>()

type Preset = 'place' | 'small' | 'line'
const SMALL = { width: 480, height: 320 }
const preset = ref<Preset | ''>('place')
const presets: { value: Preset; label: string }[] = [
  { value: 'place', label: 'As wide as its place' },
  { value: 'small', label: `${SMALL.width} × ${SMALL.height}` },
  { value: 'line', label: 'A slim line' },
]
/** At those of its place, the widest alone for a line, or the set one. */
const widths = computed(() => {
  const own = spotKinds.find((one) => one.kind === spot.kind)?.widths ?? []
  return { place: own, line: own.slice(-1), small: [SMALL.width] }[preset.value || 'place']
})
/** Where wordings are shown in turn, the frame is as high as the tallest. */
const heights = shallowRef<PlaceHeights | null>(null)
/** Between two widths that were measured it may be as high as at the narrower one. */
const heightAt = (width: number) => heights.value?.findLast((one) => one.width <= width)?.height ?? 0
const needed = computed(() => Math.max(0, ...widths.value.map(heightAt)))
const size = computed((): FrameSize => {
  if (preset.value === 'small') return SMALL
  const isByPlace = preset.value !== 'line' && heights.value !== null
  return { width: null, height: needed.value, ...(isByPlace && { heights: heights.value! }) }
})
const code = computed(() => frameCode(address, content.words.heading || content.words.button, size.value))
</script>

<template>
  <div class="frame">
    <Choice v-model="preset" :name="`size ${address}`" label="Size of the frame" :options="presets" />
    <p class="quiet small" role="status">
      <template v-if="needed === 0">The form is being measured …</template>
      <template v-else-if="preset === 'small' && needed > SMALL.height">
        The form is {{ needed }} px high at {{ SMALL.width }} px: it would have to be scrolled within the frame.
      </template>
      <template v-else-if="preset === 'line'">
        {{ needed }} px high at {{ widths[0] }} px; in a narrower place it would have to be scrolled within the frame.
      </template>
      <template v-else>
        As high as the form needs in the width of its place: {{ heightAt(widths[0]!) }} px at {{ widths[0] }} px,
        {{ heightAt(widths.at(-1)!) }} px at {{ widths.at(-1) }}. Where the site takes styles out, it stays
        {{ size.height }} px high.
      </template>
    </p>
    <CodeBlock
      v-if="needed > 0"
      title="Frame"
      :text="code"
      label="The code"
      copy-words="Copy the code"
      is-main
      is-folded
      :paste="paste"
    />
    <TallestRoom :spot="spot" :content="content" font="" is-frame @measured="heights = $event" />
  </div>
</template>

<style scoped>
.frame {
  position: relative;
  display: grid;
  gap: var(--gap-3);
  min-width: 0;
}
</style>

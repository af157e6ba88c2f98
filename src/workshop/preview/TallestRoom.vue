<script setup lang="ts">
import { computed, reactive, watch } from 'vue'
import type { PlaceHeights } from '#core/embed'
import type { FormContent } from '#core/form'
import type { Spot } from '#core/spot'
import { useWorkspace } from '../data'
import PlaceRoom from './PlaceRoom.vue'

/** As `PlaceRoom`, where other wordings are shown in turn: as high as the tallest of them at each width. */
const {
  spot,
  content,
  isFrame = false,
} = defineProps<{
  spot: Spot
  content: FormContent
  /** The site's own `font-family`, in which forms are set that take it. */ font: string
  isFrame?: boolean
}>()
const emit = defineEmits<{ measured: [heights: PlaceHeights] }>()
const workspace = useWorkspace()
const contents = computed(() => [content, ...workspace.triedAt(spot)])
const measured = reactive(new Map<number, PlaceHeights>())
watch(
  () => contents.value.length,
  () => measured.clear(),
)
function take(at: number, heights: PlaceHeights): void {
  measured.set(at, heights)
  const all = contents.value.flatMap((_, one) => (measured.has(one) ? [measured.get(one)!] : []))
  if (all.length < contents.value.length) return
  emit(
    'measured',
    heights.map(({ width }, step) => ({ width, height: Math.max(...all.map((one) => one[step]!.height)) })),
  )
}
</script>

<template>
  <PlaceRoom
    v-for="(one, at) in contents"
    :key="at"
    :spot="spot"
    :content="one"
    :font="font"
    :is-frame="isFrame"
    @measured="take(at, $event)"
  />
</template>

<script setup lang="ts">
import { computed, onScopeDispose, useTemplateRef } from 'vue'
import { heightsAt, type PlaceHeights } from '#core/embed'
import type { FormContent } from '#core/form'
import { PHONE_WIDTH, toDocument } from '#core/render'
import type { Spot } from '#core/spot'
import { textsOf } from '#core/texts'
import { useRested } from '../rest'
import { usePictures } from '../data'
import OutOfSight from './OutOfSight.vue'
import { formInFrame, formInPlace } from './scenes'

/** Draws a form alone, out of sight, in places of many widths, and says how high it is in each with the space around it. */
const {
  spot,
  content,
  font,
  isFrame = false,
} = defineProps<{
  spot: Spot
  content: FormContent
  /** The site's own `font-family`, in which forms are set that take it. */ font: string
  /** It stands in a frame, which is as wide as the place, and fills it. */ isFrame?: boolean
}>()
const emit = defineEmits<{ measured: [heights: PlaceHeights] }>()

const REST_MS = 250
/** So many widths at a time, so that the workshop stays quick meanwhile. */
const AT_ONCE = 12
/** CSS pixels: from a narrow column on a phone to a page, closer where lines break more often. */
const widths = [
  ...Array.from({ length: 16 }, (_, at) => 136 + at * 8),
  ...Array.from({ length: 65 }, (_, at) => 264 + at * 16),
]
const WINDOW_PX = 1280

const pictures = usePictures()
const frame = useTemplateRef('frame')
const page = computed(() => {
  const scene = { content, form: spot.form, pictureAddress: pictures.addressOf }
  return toDocument(isFrame ? formInFrame(scene) : formInPlace(scene, font))
})
const shown = useRested(() => page.value, REST_MS)

let round = 0
onScopeDispose(() => round++)
async function measure(): Promise<void> {
  const own = ++round
  const place = frame.value?.contentDocument?.body.firstElementChild as HTMLElement | null | undefined
  if (!frame.value || !place) return
  // What is seen with scripts off has to fit into a frame, which cannot become higher.
  if (!isFrame) showOneStep(place)
  let asked = 0
  const at = async (width: number): Promise<{ width: number; height: number } | null> => {
    if (asked++ % AT_ONCE === 0) await new Promise((resolve) => setTimeout(resolve))
    if (own !== round || !frame.value) return null
    // A side column is as narrow on a wide page; every other place so narrow is on a phone.
    const isOnPhone = width <= PHONE_WIDTH && spot.kind !== 'sidebar'
    frame.value.style.width = `${isFrame ? width : isOnPhone ? PHONE_WIDTH : WINDOW_PX}px`
    if (!isFrame) place.style.width = `${width}px`
    return { width, height: Math.ceil(place.getBoundingClientRect().height) }
  }
  const heights = await heightsAt(widths, at)
  if (heights !== null) emit('measured', heights)
}

/** As the visitors' script shows several steps: the first, with a button to the next. */
function showOneStep(place: HTMLElement): void {
  const [first, ...others] = place.querySelectorAll<HTMLElement>('.askbox-step')
  const button = place.querySelector('.askbox-button')
  if (first === undefined || others.length === 0 || button === null) return
  for (const step of others) step.style.display = 'none'
  const row = place.ownerDocument.createElement('div')
  row.className = 'askbox-row askbox-turns'
  row.style.marginTop = '.75em'
  const next = button.cloneNode() as HTMLElement
  next.textContent = textsOf(content.language, content.texts).next
  row.append(next)
  first.append(row)
}
</script>

<template>
  <OutOfSight>
    <iframe ref="frame" sandbox="allow-same-origin" tabindex="-1" title="The form" :srcdoc="shown" @load="measure" />
  </OutOfSight>
</template>

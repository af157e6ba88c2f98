<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { ElButton } from 'element-plus'
import { computed, useTemplateRef } from 'vue'
import { type FormContent, type Shape, startContent } from '#core/form'
import type { FormId, PictureId } from '#core/ids'
import { mix, type Palette } from '#core/look'
import type { Language } from '#core/texts'
import ScaledPreview from './ScaledPreview.vue'
import { formAlone, scenePage } from './scenes'

/** Start shapes to choose one of, each as it would really look in a site's colours. */
const {
  shapes,
  palette,
  language,
  isNarrow = false,
} = defineProps<{
  shapes: readonly Shape[]
  chosen: string
  palette: Palette
  language: Language
  label: string
  /** Only narrow places are meant. */ isNarrow?: boolean
}>()
const emit = defineEmits<{ choose: [shape: Shape] }>()

const WIDTH_PX = 640
const NARROW_PX = 360
const PAGE_WIDTH_PX = 1000
const TILE_HEIGHT_PX = 180
const PADDING_PX = 26
const tiles = useTemplateRef('tiles')
const { width: room } = useElementSize(() => tiles.value?.querySelector('li'))
const shown = computed(() =>
  shapes.map((shape) => {
    const content = startContent('Our letter', shape, palette, language)
    const scene = {
      content: { ...content, illustration: WITH_PICTURE.has(shape.key) ? stand : null },
      form: 'shape' as FormId,
      pictureAddress: () => landscape(palette),
    }
    const isPage = shape.key === 'landing'
    return {
      shape,
      page: isPage ? scenePage({ ...scene, isLanding: true }) : formAlone(scene),
      width: isPage ? PAGE_WIDTH_PX : isNarrow ? NARROW_PX : WIDTH_PX,
    }
  }),
)

/** Shapes that are made for a picture, drawn with one that stands in for the owner's. */
const WITH_PICTURE = new Set(['picture-side', 'gift'])
const stand: FormContent['illustration'] = {
  picture: { id: 'standsin' as PictureId, width: 1200, height: 900 },
  phonePicture: null,
  alternative: '',
  isDecoration: true,
  onPhones: true,
}

function landscape({ accent, background }: Palette): string {
  const [far, near] = [mix(accent, background, 0.35), mix(accent, background, 0.6)]
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1200 900" preserveAspectRatio="xMidYMid slice"><rect width="1200" height="900" fill="${mix(accent, background, 0.16)}"/><circle cx="760" cy="300" r="90" fill="${background}"/><path d="M0 620Q280 420 560 590T1200 520V900H0Z" fill="${far}"/><path d="M0 760Q420 560 760 720T1200 690V900H0Z" fill="${near}"/></svg>`
  return `data:image/svg+xml,${encodeURIComponent(svg)}`
}
</script>

<template>
  <ul ref="tiles" :aria-label="label">
    <li v-for="{ shape, page, width } in shown" :key="shape.key">
      <ElButton class="shape" :aria-pressed="chosen === shape.key" @click="emit('choose', shape)">
        <span class="name">{{ shape.name }}</span>
        <span class="quiet small">{{ shape.purpose }}</span>
        <ScaledPreview
          v-if="room > 0"
          :page="page"
          :width="width"
          :scale="(room - PADDING_PX) / width"
          :most="TILE_HEIGHT_PX"
        />
      </ElButton>
    </li>
  </ul>
</template>

<style scoped>
ul {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(230px, 100%), 1fr));
  gap: var(--gap-3);
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  min-width: 0;
}
.shape {
  height: auto;
  padding: var(--gap-2) var(--gap-3) var(--gap-3);
  border-color: var(--hairline);
  background: var(--sheet);
  font-weight: 400;
  text-align: start;
  white-space: normal;
}
.shape :deep(> span) {
  display: grid;
  flex: 1;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-1);
  align-content: start;
  height: 100%;
  line-height: 1.35;
}
.shape[aria-pressed='true'] {
  border-color: var(--moss);
  background: var(--moss-wash);
}
.name {
  font-weight: 650;
}
</style>

<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { ElButton } from 'element-plus'
import { computed, useTemplateRef } from 'vue'
import { type Shape, shapes, startContent } from '#core/form'
import type { FormId } from '#core/ids'
import type { Palette } from '#core/look'
import type { Language } from '#core/texts'
import ScaledPreview from './ScaledPreview.vue'
import { formAlone } from './scenes'

/** The start shapes to choose one of, each as it would really look in a site's colours. */
const { palette, language } = defineProps<{
  chosen: string
  palette: Palette
  language: Language
  label: string
}>()
const emit = defineEmits<{ choose: [shape: Shape] }>()

const WIDTH_PX = 640
const TILE_HEIGHT_PX = 150
const PADDING_PX = 26
const tiles = useTemplateRef('tiles')
const { width: room } = useElementSize(() => tiles.value?.querySelector('li'))
const shown = computed(() =>
  shapes.map((shape) => ({
    shape,
    page: formAlone({
      content: startContent('Our letter', shape, palette, language),
      form: 'shape' as FormId,
      pictureAddress: () => '',
    }),
  })),
)
</script>

<template>
  <ul ref="tiles" :aria-label="label">
    <li v-for="{ shape, page } in shown" :key="shape.key">
      <ElButton class="shape" :aria-pressed="chosen === shape.key" @click="emit('choose', shape)">
        <span class="name">{{ shape.name }}</span>
        <span class="quiet small">{{ shape.purpose }}</span>
        <ScaledPreview
          v-if="room > 0"
          :page="page"
          :width="WIDTH_PX"
          :scale="(room - PADDING_PX) / WIDTH_PX"
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

<script setup lang="ts">
import { computed } from 'vue'
import type { FormContent } from '#core/form'
import type { FormId } from '#core/ids'
import { usePictures, useWorkspace } from '../../data'
import { formAlone, formInText } from '../../preview/scenes'
import ScaledPreview from '../../preview/ScaledPreview.vue'

/** What is tried, beside each other, small. */
const { form, wordings } = defineProps<{ form: FormId; wordings: readonly { name: string; content: FormContent }[] }>()
const workspace = useWorkspace()
const pictures = usePictures()
const SHOWN_PX = 272
const MOST_PX = 190
/** What is a page of its own is drawn as one. */
const isLanding = computed(() => workspace.isPage(form))
const width = computed(() => (isLanding.value ? 1280 : 680))
const drawn = computed(() =>
  wordings.map(({ name, content }) => {
    const scene = { content, form, pictureAddress: pictures.addressOf, isLanding: isLanding.value }
    return { name, page: (isLanding.value ? formInText : formAlone)(scene) }
  }),
)
</script>

<template>
  <div class="pictures">
    <figure v-for="({ name, page }, at) in drawn" :key="at">
      <ScaledPreview :page="page" :width="width" :scale="SHOWN_PX / width" :most="MOST_PX" />
      <figcaption class="small">{{ name }}</figcaption>
    </figure>
  </div>
</template>

<style scoped>
.pictures {
  display: flex;
  flex-wrap: wrap;
  gap: var(--gap-3);
}
figure {
  min-width: 0;
  max-width: 100%;
  margin: 0;
  overflow: hidden;
}
</style>

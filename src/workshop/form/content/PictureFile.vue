<script setup lang="ts">
import { ImagePlus } from '@lucide/vue'
import { computed, ref, useTemplateRef } from 'vue'
import type { PictureUse } from '#core/picture'
import { usePictures } from '../../data/pictures'
import { useWorkspace } from '../../data/workspace'
import { pictureFrom } from './choose-picture'

/** Chooses a picture: a press, or a file dropped here. It is scaled down to what its place needs and kept in this browser. */
const use = defineModel<PictureUse | null>({ required: true })
const { name, place } = defineProps<{
  name: string
  /** Largest size it is shown at, in CSS pixels. */ place: { width: number; height: number }
}>()

const workspace = useWorkspace()
const pictures = usePictures()
const input = useTemplateRef('input')
const isBusy = ref(false)
const isOver = ref(false)
const problem = ref('')
const address = computed(() => (use.value === null ? '' : pictures.addressOf(use.value)))
const kept = computed(() => workspace.pictures.find(({ id }) => id === use.value?.id))
const weight = computed(() =>
  kept.value === undefined
    ? ''
    : `${use.value?.width} × ${use.value?.height}, ${Math.round((kept.value.bytes.length * 0.75) / 1000)} KB`,
)

async function take(file: File | undefined): Promise<void> {
  if (file === undefined) return
  isBusy.value = true
  problem.value = ''
  try {
    const picture = await pictureFrom(file, place)
    await workspace.keepPicture(picture)
    use.value = { id: picture.id, width: picture.width, height: picture.height }
  } catch (error) {
    problem.value = error instanceof Error ? error.message : 'The picture could not be read.'
  } finally {
    isBusy.value = false
    if (input.value) input.value.value = ''
  }
}
</script>

<template>
  <div
    class="picture"
    :class="{ over: isOver }"
    @dragover.prevent="isOver = true"
    @dragleave="isOver = false"
    @drop.prevent="((isOver = false), take($event.dataTransfer?.files[0]))"
  >
    <img v-if="address" :src="address" alt="" />
    <div class="words">
      <label class="choose">
        <ImagePlus :size="16" aria-hidden="true" />
        <span>{{ isBusy ? 'Scaling down …' : use === null ? name : `Another ${name.toLowerCase()}` }}</span>
        <input
          ref="input"
          class="only-heard"
          type="file"
          accept="image/png,image/jpeg,image/webp,image/gif,image/avif"
          :disabled="isBusy"
          @change="take(($event.target as HTMLInputElement).files?.[0])"
        />
      </label>
      <span v-if="use" class="quiet small"
        >{{ weight }} <button type="button" class="link" @click="use = null">Take it off</button></span
      >
      <span v-else class="quiet small">or drop a file here</span>
    </div>
    <p v-if="problem" class="problem small" role="alert">{{ problem }}</p>
  </div>
</template>

<style scoped>
.picture {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: var(--gap-2) var(--gap-3);
  align-items: center;
  padding: var(--gap-2) var(--gap-3);
  border: 1px dashed var(--edge);
  border-radius: var(--corner);
}
.picture.over {
  border-style: solid;
  background: var(--moss-wash);
}
img {
  width: 72px;
  height: 54px;
  object-fit: cover;
  border-radius: 2px;
}
.words {
  display: grid;
  gap: 2px;
}
.choose {
  display: flex;
  gap: var(--gap-2);
  align-items: center;
  font-weight: 600;
  cursor: pointer;
}
.choose:focus-within {
  outline: 2px solid var(--moss);
  outline-offset: 2px;
}
.problem {
  grid-column: 1 / -1;
}
.link {
  padding: 0;
  border: 0;
  background: none;
  color: var(--moss);
  text-decoration: underline;
  cursor: pointer;
}
</style>

<script setup lang="ts">
import { ImagePlus } from '@lucide/vue'
import { ElButton, ElUpload } from 'element-plus'
import { computed, ref } from 'vue'
import type { PictureUse } from '#core/picture'
import { usePictures, useWorkspace } from '../../../data'
import { pictureFrom } from './choose-picture'

/** Chooses a picture: a press, or a file dropped here. It is scaled down to what its place needs and kept in this browser. */
const use = defineModel<PictureUse | null>({ required: true })
const { name, shownAt } = defineProps<{
  name: string
  /** Largest size it is shown at, in CSS pixels. */ shownAt: { width: number; height: number }
}>()

const workspace = useWorkspace()
const pictures = usePictures()
const isBusy = ref(false)
const showsEarlier = ref(false)
const problem = ref('')
/** Those that other places have, to be used again: each is kept and sent only once. */
const earlier = computed(() => workspace.pictures.filter(({ id }) => id !== use.value?.id))
const address = computed(() => (use.value === null ? '' : pictures.addressOf(use.value)))
const picture = computed(() => workspace.pictures.find(({ id }) => id === use.value?.id))
const weight = computed(() =>
  picture.value === undefined
    ? ''
    : `${use.value?.width} × ${use.value?.height}, ${Math.round((picture.value.bytes.length * 0.75) / 1000)} KB`,
)

function takeAgain({ id, width, height }: PictureUse): void {
  use.value = { id, width, height }
  showsEarlier.value = false
}

async function take(file: File | undefined): Promise<void> {
  if (file === undefined) return
  isBusy.value = true
  problem.value = ''
  try {
    const picture = await pictureFrom(file, shownAt)
    await workspace.keepPicture(picture)
    use.value = { id: picture.id, width: picture.width, height: picture.height }
  } catch (error) {
    problem.value = error instanceof Error ? error.message : 'The picture could not be read.'
  } finally {
    isBusy.value = false
  }
}
</script>

<template>
  <div class="picture">
    <ElUpload
      drag
      :auto-upload="false"
      :show-file-list="false"
      accept="image/png,image/jpeg,image/webp,image/gif,image/avif"
      :disabled="isBusy || undefined"
      @change="take($event.raw)"
    >
      <span class="choose">
        <img v-if="address" :src="address" alt="" />
        <ImagePlus v-else :size="18" aria-hidden="true" />
        <span>
          <b>{{ isBusy ? 'Scaling down …' : use === null ? name : `Another ${name.toLowerCase()}` }}</b>
          <span class="quiet small">{{ use === null ? 'press, or drop a file here' : weight }}</span>
        </span>
      </span>
    </ElUpload>
    <div v-if="use || earlier.length > 0" class="row">
      <ElButton v-if="use" link type="primary" size="small" @click="use = null">Take it off</ElButton>
      <ElButton
        v-if="earlier.length > 0"
        link
        type="primary"
        size="small"
        :aria-expanded="showsEarlier"
        @click="showsEarlier = !showsEarlier"
        >One from before</ElButton
      >
    </div>
    <div v-if="showsEarlier" class="earlier" role="group" aria-label="Pictures from before">
      <ElButton
        v-for="picture in earlier"
        :key="picture.id"
        text
        class="one"
        :aria-label="picture.name"
        @click="takeAgain(picture)"
        ><img :src="pictures.addressOf(picture)" alt=""
      /></ElButton>
    </div>
    <p v-if="problem" class="problem small" role="alert">{{ problem }}</p>
  </div>
</template>

<style scoped>
.picture {
  display: grid;
  gap: var(--gap-1);
}
.choose {
  display: flex;
  gap: var(--gap-3);
  align-items: center;
  text-align: start;
}
.choose > span {
  display: grid;
}
.earlier {
  display: flex;
  flex-wrap: wrap;
  gap: var(--gap-1);
}
.one {
  height: auto;
  padding: 3px;
}
img {
  width: 72px;
  height: 54px;
  object-fit: cover;
  border-radius: 2px;
}
</style>

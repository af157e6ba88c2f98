<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed, ref } from 'vue'
import type { FormContent } from '#core/form'
import { videoHost } from '#core/video'
import { writeSetting } from '../../data'
import type { Draft } from '../draft'
import { useReceiver } from '../../sync/receiver'

/** A video from a host the owner allows: only a frame with a title comes out of what is pasted. */
const { content, draft } = defineProps<{ content: FormContent; draft: Draft }>()

const receiver = useReceiver()
const pasted = ref('')
const problem = ref('')
const host = computed(() => (content.video === null ? '' : videoHost(content.video.address)))
const isAllowed = computed(() => (receiver.videoHosts ?? []).includes(host.value))

async function take(): Promise<void> {
  const { readVideo } = await import('#core/html')
  const reading = readVideo(pasted.value)
  problem.value = reading.ok ? '' : reading.message
  if (!reading.ok) return
  pasted.value = ''
  draft.change('Add a video', 'video', (changed) => {
    changed.video = { ...reading.video, title: reading.video.title || (changed.video?.title ?? '') }
  })
}

function allow(): void {
  void writeSetting('videoHosts', [...(receiver.videoHosts ?? []), host.value])
}
</script>

<template>
  <fieldset class="group">
    <legend>Video</legend>
    <template v-if="content.video">
      <p class="small address">{{ content.video.address }}</p>
      <p v-if="!isAllowed" class="row small problem">
        Visitors’ browsers will load from {{ host }}. <ElButton size="small" @click="allow">Allow {{ host }}</ElButton>
      </p>
      <label class="field">
        <span class="name">Title, read to people who cannot see it</span>
        <input
          class="plain-input"
          :value="content.video.title"
          @input="
            draft.change(
              'Name the video',
              'video title',
              (changed) =>
                changed.video && Object.assign(changed.video, { title: ($event.target as HTMLInputElement).value }),
            )
          "
        />
      </label>
      <div>
        <ElButton size="small" @click="draft.change('Take the video off', 'video', (changed) => (changed.video = null))"
          >Take the video off</ElButton
        >
      </div>
    </template>
    <form v-else class="field" @submit.prevent="take">
      <label class="field">
        <span class="name">Its link, or the embed code its host gives</span>
        <textarea v-model="pasted" class="plain-input" rows="2" spellcheck="false" :aria-invalid="problem !== ''" />
      </label>
      <span v-if="problem" class="problem small" role="alert">{{ problem }}</span>
      <div><ElButton size="small" native-type="submit" :disabled="pasted.trim() === ''">Add the video</ElButton></div>
    </form>
  </fieldset>
</template>

<style scoped>
.address {
  overflow-wrap: anywhere;
}
</style>

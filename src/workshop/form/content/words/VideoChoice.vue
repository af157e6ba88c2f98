<script setup lang="ts">
import { ElButton, ElInput } from 'element-plus'
import { computed, ref } from 'vue'
import type { FormContent } from '#core/form'
import { videoHost } from '#core/video'
import { usePreferences } from '../../../data'
import Labelled from '../../../controls/Labelled.vue'
import type { Draft } from '../../draft'

/** A video from a host the owner allows: only a frame with a title comes out of what is pasted. */
const { content, draft } = defineProps<{ content: FormContent; draft: Draft }>()

const preferences = usePreferences()
const allowed = computed(() => preferences.preferences?.videoHosts ?? [])
const pasted = ref('')
const problem = ref('')
const host = computed(() => (content.video === null ? '' : videoHost(content.video.address)))
const isAllowed = computed(() => allowed.value.includes(host.value))

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

function rename(title: string): void {
  draft.change('Name the video', 'video title', ({ video }) => video && Object.assign(video, { title }))
}

function allow(): void {
  void preferences.change({ videoHosts: [...allowed.value, host.value] })
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
      <Labelled label="Title, read to people who cannot see it">
        <ElInput :model-value="content.video.title" @input="rename" />
      </Labelled>
      <div>
        <ElButton size="small" @click="draft.change('Take the video off', 'video', (changed) => (changed.video = null))"
          >Take the video off</ElButton
        >
      </div>
    </template>
    <form novalidate v-else class="field" @submit.prevent="take">
      <Labelled label="Its link, or the embed code its host gives" :problem="problem">
        <ElInput v-model="pasted" type="textarea" :rows="2" spellcheck="false" :aria-invalid="problem !== ''" />
      </Labelled>
      <div><ElButton size="small" native-type="submit" :disabled="pasted.trim() === ''">Add the video</ElButton></div>
    </form>
  </fieldset>
</template>

<style scoped>
.address {
  overflow-wrap: anywhere;
}
</style>

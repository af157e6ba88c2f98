<script setup lang="ts">
import { ElButton, ElSkeleton } from 'element-plus'
import { useElementSize } from '@vueuse/core'
import { computed, ref, shallowRef, useTemplateRef, watch } from 'vue'
import type { Rule } from '#core/rule'
import { clientFor } from '../../../client'
import { useReceiver } from '../../../sync'
import { usePagePicture } from './page-picture'
import { partWords } from './part-words'

/** A real page of the site, in which a place for the form is chosen, and in which it is seen where the form comes. */
const { address, rule } = defineProps<{ address: string; rule: Rule }>()
const emit = defineEmits<{ choose: [part: Element] }>()
const receiver = useReceiver()

/** As a desk sees it; drawn smaller. */
const WIDTH = 1180
const { width: room } = useElementSize(useTemplateRef('room'))
const scale = computed(() => Math.min(1, room.value / WIDTH))
const HEIGHT = 520
const frame = useTemplateRef('frame')
const src = ref('')
const problem = shallowRef('')
const isRead = ref(false)
const { onLoad, part, count, isClosed, showPlace } = usePagePicture(
  frame,
  () => rule,
  (one) => emit('choose', one),
)
function loaded(): void {
  onLoad()
  isRead.value = true
  showPlace()
}
let wish = 0
async function look(): Promise<void> {
  const mine = ++wish
  src.value = ''
  problem.value = ''
  isRead.value = false
  if (receiver.pairing === null || address === '') return
  try {
    const pairing = { ...receiver.pairing }
    const { path } = await clientFor(pairing).stillPage(address)
    if (mine === wish) src.value = `${pairing.receiver}${path}`
  } catch (error) {
    if (mine === wish) problem.value = error instanceof Error ? error.message : String(error)
  }
}
watch(() => address, look, { immediate: true })
</script>

<template>
  <div ref="room" class="picture">
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <ElSkeleton v-if="!problem && !isRead" :rows="8" animated />
    <div v-if="src" class="sheet window" :style="{ height: `${HEIGHT}px` }">
      <iframe
        ref="frame"
        :src="src"
        sandbox="allow-same-origin"
        title="The page. Press the part beside which the form should stand."
        :style="{ width: `${WIDTH}px`, height: `${HEIGHT / scale}px`, transform: `scale(${scale})` }"
        @load="loaded"
      />
    </div>
    <p class="small row under" aria-live="polite">
      <span v-if="isClosed"
        >Parts can be chosen when the workshop is opened at the address of its receiver. Choose by words, or type a
        selector.</span
      >
      <span v-else-if="part" class="part">{{ partWords(part) }}: press to put the form beside it.</span>
      <span v-else-if="isRead" class="quiet"
        >Point at a part of the page, or go there by the arrow keys, and press it.</span
      >
      <ElButton v-if="isRead && count" link type="primary" @click="showPlace">Show where the form comes</ElButton>
    </p>
  </div>
</template>

<style scoped>
.picture {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-2);
  align-content: start;
}
.window {
  overflow: hidden;
}
iframe {
  display: block;
  border: 0;
  background: #fff;
  transform-origin: 0 0;
}
.under {
  min-height: 1.6em;
  margin: 0;
  justify-content: space-between;
  overflow-wrap: anywhere;
}
</style>

<script setup lang="ts">
import { useTemplateRef } from 'vue'
import type { Answer, FormContent } from '#core/form'
import { answerPage, type AnswerSign, type Press, type WayBack } from '#core/render'
import { useFrameDocument } from '../../preview'

/** The answer's page as a visitor gets it. */
const {
  answer,
  content,
  wayBack,
  press = null,
  sign = null,
} = defineProps<{
  answer: Answer
  content: FormContent
  wayBack: WayBack | null
  press?: Press | null
  sign?: AnswerSign | null
}>()

const frame = useTemplateRef('frame')
const { first, onLoad } = useFrameDocument(frame, () =>
  answerPage(answer, content, wayBack, { presses: press === null ? [] : [press], sign }),
)
</script>

<template>
  <iframe
    ref="frame"
    class="sheet"
    sandbox="allow-same-origin"
    title="The answer, as a visitor gets it"
    :srcdoc="first"
    @load="onLoad"
  />
</template>

<style scoped>
iframe {
  display: block;
  width: 100%;
  height: 340px;
}
</style>

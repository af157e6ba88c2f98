<script setup lang="ts">
import { computed, ref, useTemplateRef } from 'vue'
import { useElementSize } from '@vueuse/core'
import type { Form, FormContent } from '#core/form'
import type { StationState } from '#core/line'
import type { Draft } from '../stores/draft'
import FieldChoice from './FieldChoice.vue'
import Findings from './Findings.vue'
import FormPicture from './FormPicture.vue'
import LookControls from './LookControls.vue'
import WidthRuler from './WidthRuler.vue'

const { form, draft, content } = defineProps<{ form: Form; draft: Draft; content: FormContent; state?: StationState }>()

const width = ref(680)
const stage = useTemplateRef('stage')
const { width: room } = useElementSize(stage)
const isScaled = computed(() => room.value > 0 && room.value < width.value)
</script>

<template>
  <section class="station" aria-label="Form">
    <div class="work">
      <WidthRuler v-model="width" />
      <div ref="stage" class="stage">
        <FormPicture v-if="room > 0" :key="form.id" :content="content" :form="form.id" :draft="draft" :width="width" :room="room" />
      </div>
      <p class="quiet small">
        This is the form itself. Press any text in it to rewrite it; type into a field to change its example.
        <span v-if="isScaled">Shown at {{ Math.round((room / width) * 100) }} % of its size.</span>
      </p>
    </div>
    <div class="controls">
      <Findings :findings="state?.findings ?? []" />
      <FieldChoice :content="content" :draft="draft" />
      <LookControls :content="content" :draft="draft" />
    </div>
  </section>
</template>

<style scoped>
.stage {
  display: flex;
  justify-content: center;
  padding-block: var(--gap-5);
  border: 1px solid var(--hairline);
  border-radius: var(--corner);
  background: #fff;
}
</style>

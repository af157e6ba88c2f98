<script setup lang="ts">
import { ElButton, ElCheckbox, ElInput } from 'element-plus'
import { computed, ref } from 'vue'
import type { FormContent } from '#core/form'
import type { PictureUse } from '#core/picture'
import type { Draft } from '../../draft'
import Choice from '../../../controls/Choice.vue'
import Labelled from '../../../controls/Labelled.vue'
import FocalPoint from './FocalPoint.vue'
import PictureFile from './PictureFile.vue'
import RangeInput from '../../../controls/RangeInput.vue'

/** The form's picture: which, where it stands, what is said to people who cannot see it. */
const { content, draft } = defineProps<{ content: FormContent; draft: Draft }>()

const showsFocus = ref(false)
const illustration = computed(() => content.illustration)
const picture = computed<PictureUse | null>({
  get: () => illustration.value?.picture ?? null,
  set: (use) =>
    draft.change(use === null ? 'Take the picture off' : 'Choose a picture', 'picture', (changed) => {
      changed.illustration =
        use === null
          ? null
          : {
              phonePicture: null,
              alternative: '',
              isDecoration: false,
              onPhones: true,
              ...changed.illustration,
              picture: use,
            }
    }),
})
const phonePicture = computed<PictureUse | null>({
  get: () => illustration.value?.phonePicture ?? null,
  set: (use) => change('Choose a picture for phones', 'phone picture', { phonePicture: use }),
})
const stands = computed({
  get: () => content.look.picture.place,
  set: (place) =>
    draft.change('Place the picture', 'picture place', (changed) => Object.assign(changed.look.picture, { place })),
})

function change(step: string, part: string, changes: Partial<NonNullable<FormContent['illustration']>>): void {
  draft.change(step, part, (changed) => changed.illustration && Object.assign(changed.illustration, changes))
}
</script>

<template>
  <fieldset class="group">
    <legend>Picture</legend>
    <PictureFile v-model="picture" name="Picture" :shown-at="{ width: 1280, height: 900 }" />
    <template v-if="illustration">
      <ElButton link type="primary" size="small" :aria-expanded="showsFocus" @click="showsFocus = !showsFocus"
        >Say what matters in it</ElButton
      >
      <FocalPoint
        v-if="showsFocus"
        :model-value="illustration.focus ?? { x: 50, y: 50 }"
        :picture="illustration.picture"
        @update:model-value="change('Say what matters in the picture', 'focus', { focus: $event })"
      />
      <Labelled label="The picture stands">
        <Choice
          v-model="stands"
          label="The picture stands"
          name="picture-place"
          :options="[
            { value: 'above', label: 'Above' },
            { value: 'start', label: 'At the start' },
            { value: 'end', label: 'At the end' },
            { value: 'behind', label: 'Behind' },
          ]"
        />
      </Labelled>
      <RangeInput
        v-if="stands === 'behind'"
        name="Strength"
        unit="%"
        :least="5"
        :most="100"
        :value="content.look.picture.strength"
        @change="
          draft.change('Set the picture’s strength', 'picture strength', (changed) =>
            Object.assign(changed.look.picture, { strength: $event }),
          )
        "
      />
      <Labelled label="What it shows, for people who cannot see it">
        <ElInput
          type="textarea"
          :rows="2"
          :disabled="illustration.isDecoration || undefined"
          :model-value="illustration.alternative"
          @input="change('Describe the picture', 'alternative', { alternative: $event })"
        />
      </Labelled>
      <ElCheckbox
        :model-value="illustration.isDecoration"
        @change="change('Say whether the picture only decorates', 'decoration', { isDecoration: $event === true })"
        >It only decorates</ElCheckbox
      >
      <ElCheckbox
        :model-value="illustration.onPhones"
        @change="change('Show the picture on phones or not', 'on phones', { onPhones: $event === true })"
        >Show it on phones</ElCheckbox
      >
      <PictureFile
        v-if="illustration.onPhones"
        v-model="phonePicture"
        name="Picture for phones"
        :shown-at="{ width: 480, height: 640 }"
      />
    </template>
  </fieldset>
</template>

<script setup lang="ts">
import { ElButton, ElInput } from 'element-plus'
import { computed } from 'vue'
import {
  allBlocks,
  type BlockInColumn,
  blockName,
  blockNames,
  type LetterBlock,
  type LetterBody,
  newBlock,
  wordsNames,
} from '#core/letter'
import type { PictureUse } from '#core/picture'
import { spotName } from '#core/spot'
import { newId } from '../clock'
import Choice from '../controls/Choice.vue'
import Labelled from '../controls/Labelled.vue'
import RangeInput from '../controls/RangeInput.vue'
import Select from '../controls/Select.vue'
import { useWorkspace } from '../data'
import PictureFile from '../form/content/picture/PictureFile.vue'
import type { ChangeBody } from './blocks-in-hand'

/** What can be chosen of the block in hand. */
const { block, body, change } = defineProps<{ block: LetterBlock; body: LetterBody; change: ChangeBody }>()
const chosen = defineModel<string | null>('chosen', { required: true })
const workspace = useWorkspace()

function write(name: string, part: string, recipe: (block: LetterBlock) => void): void {
  change(name, `${block.id} ${part}`, (changed) => {
    const found = allBlocks(changed.blocks).find(({ id }) => id === block.id)
    if (found !== undefined) recipe(found)
  })
}
const picture = computed(() => (block.kind === 'picture' ? block : null))
/** Where a press on it leads. */
const link = computed(() => (block.kind === 'picture' || block.kind === 'button' ? block.link : ''))
/** Pictures are kept with up to two pixels for one of the letter’s. */
const SHOWN_AT = { width: 536, height: 1_200 }
const styles = (['text', 'title', 'heading', 'quote'] as const).map((value) => ({ value, label: wordsNames[value] }))
const widths = [
  { value: 'full' as const, label: 'All of it' },
  { value: 'half' as const, label: 'Half' },
  { value: 'small' as const, label: 'A quarter' },
]
/** Forms that visitors can open as a page. */
const offers = computed(() =>
  workspace.spots
    .filter(({ state, form }) => state === 'live' && workspace.latestVersion(form) !== null)
    .map((spot) => ({
      value: spot.id as string,
      label: `${workspace.form(spot.form)?.name ?? 'A form'}: ${spotName(spot, workspace.sites)}`,
    })),
)
const setPicture = (use: PictureUse | null) =>
  write('Choose a picture', 'picture', (one) => {
    if (one.kind !== 'picture') return
    one.picture = use
    if (use !== null) one.address = ''
  })

/** What the form says itself comes with it, to be written over. */
function offerOf(id: string): void {
  const spot = workspace.spots.find((one) => one.id === id) ?? null
  const words = spot === null ? undefined : workspace.latestVersion(spot.form)?.content.words
  write('Choose a form', 'offer', (one) => {
    if (one.kind !== 'offer' || spot === null) return
    one.spot = spot.id
    if (words === undefined) return
    const heading = typeof words.heading === 'string' ? words.heading : ''
    if (one.heading === '') one.heading = heading.slice(0, 500)
    if (one.text.length === 0) one.text = structuredClone(words.introduction)
    const button = typeof words.button === 'string' ? words.button : ''
    if (button !== '') one.button = button.slice(0, 500)
  })
}

function addInColumn(side: 'left' | 'right', kind: BlockInColumn['kind']): void {
  const made = newBlock(kind, () => newId<string>()) as BlockInColumn
  write('Put into a column', `${side} ${made.id}`, (one) => void (one.kind === 'columns' && one[side].push(made)))
  chosen.value = made.id
}

/** The columns that it stands in, where it does. */
const around = computed(
  () =>
    body.blocks.find(
      (one) => one.kind === 'columns' && one.id !== block.id && allBlocks([one]).some(({ id }) => id === block.id),
    ) ?? null,
)
function takeOutOfColumn(): void {
  const columns = around.value
  if (columns === null) return
  change('Take out of a column', `remove ${block.id}`, (changed) => {
    const found = changed.blocks.find(({ id }) => id === columns.id)
    if (found?.kind !== 'columns') return
    found.left = found.left.filter(({ id }) => id !== block.id)
    found.right = found.right.filter(({ id }) => id !== block.id)
  })
  chosen.value = columns.id
}
const sides = ['left', 'right'] as const
const columnKinds = (['words', 'picture', 'button'] as const).map((kind) => ({ kind, name: blockNames[kind] }))
</script>

<template>
  <fieldset class="group">
    <legend>{{ blockName(block) }}</legend>
    <Choice
      v-if="block.kind === 'words'"
      name="letter-words-as"
      label="Written as"
      :options="styles"
      :model-value="block.as"
      @update:model-value="
        write('Written as', 'as', (one) => void (one.kind === 'words' && $event && (one.as = $event)))
      "
    />
    <template v-if="block.kind === 'picture'">
      <PictureFile :model-value="block.picture" name="Picture" :shown-at="SHOWN_AT" @update:model-value="setPicture" />
      <Labelled
        v-if="block.picture === null"
        label="Or its address"
        hint="Not shown here: the workshop loads nothing from elsewhere. Your readers see it."
      >
        <ElInput
          :model-value="picture?.address ?? ''"
          placeholder="https://your-site.example/picture.jpg"
          @update:model-value="
            write('Address of a picture', 'address', (one) => void (one.kind === 'picture' && (one.address = $event)))
          "
        />
      </Labelled>
      <Labelled
        label="What it shows"
        hint="For whoever does not see it: many programs show pictures only after a press."
      >
        <ElInput
          :model-value="picture?.alt ?? ''"
          :maxlength="500"
          @update:model-value="
            write('Words of a picture', 'alt', (one) => void (one.kind === 'picture' && (one.alt = $event)))
          "
        />
      </Labelled>
      <Choice
        name="letter-picture-width"
        label="How much of the width"
        :options="widths"
        :model-value="picture?.width ?? 'full'"
        @update:model-value="
          write('Width of a picture', 'width', (one) => void (one.kind === 'picture' && $event && (one.width = $event)))
        "
      />
    </template>
    <Labelled
      v-if="block.kind === 'picture' || block.kind === 'button'"
      :label="block.kind === 'button' ? 'Where it leads' : 'Where a press on it leads, if anywhere'"
    >
      <ElInput
        :model-value="link"
        placeholder="https://"
        spellcheck="false"
        @update:model-value="
          write(
            'Where it leads',
            'link',
            (one) => void ((one.kind === 'button' || one.kind === 'picture') && (one.link = $event)),
          )
        "
      />
    </Labelled>
    <RangeInput
      v-if="block.kind === 'space'"
      name="Height"
      unit="px"
      :value="block.height"
      :least="4"
      :most="120"
      @change="write('Height of a space', 'height', (one) => void (one.kind === 'space' && (one.height = $event)))"
    />
    <template v-if="block.kind === 'offer'">
      <Labelled label="Which form’s page it opens">
        <Select
          :model-value="block.kind === 'offer' ? (block.spot ?? '') : ''"
          :options="offers"
          placeholder="Choose a form"
          @update:model-value="offerOf($event)"
        />
      </Labelled>
      <p v-if="offers.length === 0" class="quiet small">No form is published yet.</p>
    </template>
    <template v-if="block.kind === 'columns'">
      <div v-for="side in sides" :key="side" class="row">
        <span class="side">{{ side === 'left' ? 'First' : 'Second' }}</span>
        <ElButton v-for="one in columnKinds" :key="one.kind" size="small" @click="addInColumn(side, one.kind)"
          >+ {{ one.name }}</ElButton
        >
      </div>
      <p class="quiet small">Press a part of a column in the letter to work on it. On phones the second comes below.</p>
    </template>
    <ElButton v-if="around" class="start" text @click="takeOutOfColumn">Take it out of its column</ElButton>
  </fieldset>
</template>

<style scoped>
.side {
  min-width: 4em;
}
.start {
  justify-self: start;
}
</style>

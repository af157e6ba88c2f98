<script setup lang="ts">
import { computed, watch, useTemplateRef } from 'vue'
import type { Form, FormContent } from '#core/form'
import { fieldColours, type FontKey, fontKeys, fontName, type Look } from '#core/look'
import type { Draft } from '../../stores/draft'
import { useWorkspace } from '../../stores/workspace'
import Choice from '../Choice.vue'
import ColourInput from './ColourInput.vue'
import CustomCss from './CustomCss.vue'
import RangeInput from './RangeInput.vue'
import SitePalette from './SitePalette.vue'
import ThemeChoice from './ThemeChoice.vue'

/** Every token of how the form looks. `part` opens one group, as when the button was pressed in the picture. */
const { form, content, draft } = defineProps<{ form: Form; content: FormContent; draft: Draft }>()
const part = defineModel<string>('part', { required: true })

const workspace = useWorkspace()
const root = useTemplateRef('root')
const look = computed(() => content.look)
const palette = computed(() => {
  const { background, text, accent, colours } = workspace.paletteOf(form.id)
  return [...new Set([background, text, accent, ...colours])].slice(0, 9)
})
const filled = computed(() => fieldColours(look.value))

function change(step: string, place: string, recipe: (look: Look) => void): void {
  draft.change(step, `look ${place}`, (changed) => recipe(changed.look))
}
function set<Group extends 'type' | 'space' | 'border' | 'field' | 'button'>(group: Group, name: keyof Look[Group], value: unknown, step: string): void {
  change(step, `${group} ${String(name)}`, (changed) => Object.assign(changed[group], { [name]: value }))
}
function colour(name: keyof Look['colours'], value: string | null, step: string): void {
  change(step, `colour ${name}`, (changed) => Object.assign(changed.colours, { [name]: value }))
}
function setGround(kind: Look['ground']['kind']): void {
  change('Change the ground', 'ground', (changed) => (changed.ground = kind === 'gradient' ? { kind, to: changed.colours.button, angle: 160 } : { kind }))
}
const valueOf = (event: Event) => (event.target as HTMLSelectElement).value
const sizes = [
  { value: 'small' as const, label: 'Small' },
  { value: 'medium' as const, label: 'Medium' },
  { value: 'large' as const, label: 'Large' },
]

watch(part, (name) => {
  if (name === '') return
  const group = root.value?.querySelector<HTMLDetailsElement>(`[data-part="${name}"]`)
  if (group) {
    group.open = true
    group.scrollIntoView({ block: 'nearest' })
  }
  part.value = ''
})
</script>

<template>
  <div ref="root" class="look">
    <ThemeChoice :form="form" :content="content" :draft="draft" />

    <details open data-part="colours">
      <summary>Colours</summary>
      <ColourInput name="Background" :value="look.colours.background" :effective="look.colours.background" :palette="palette" @change="$event && colour('background', $event, 'Colour the background')" />
      <ColourInput name="Text" :value="look.colours.text" :effective="look.colours.text" :palette="palette" @change="$event && colour('text', $event, 'Colour the text')" />
      <ColourInput name="Button" :value="look.colours.button" :effective="look.colours.button" :palette="palette" @change="$event && colour('button', $event, 'Colour the button')" />
      <ColourInput name="Button text" :value="look.colours.buttonText" :effective="look.colours.buttonText" :palette="palette" @change="$event && colour('buttonText', $event, 'Colour the button’s words')" />
      <ColourInput name="Fields" :value="look.colours.field" :effective="filled.field" :palette="[]" can-be-none @change="colour('field', $event, 'Colour the fields')" />
      <ColourInput name="Field edge" :value="look.colours.edge" :effective="filled.edge" :palette="[]" can-be-none @change="colour('edge', $event, 'Colour the edge of the fields')" />
      <SitePalette :form="form" :draft="draft" />
    </details>

    <details data-part="ground">
      <summary>Ground</summary>
      <Choice
        :model-value="look.ground.kind"
        name="ground"
        :options="[
          { value: 'colour', label: 'Colour' },
          { value: 'gradient', label: 'Gradient' },
          { value: 'none', label: 'None' },
        ]"
        @update:model-value="setGround($event)"
      />
      <template v-if="look.ground.kind === 'gradient'">
        <ColourInput
          name="Gradient to"
          :value="look.ground.to"
          :effective="look.ground.to"
          :palette="palette"
          @change="$event && change('Colour the gradient', 'ground to', (changed) => changed.ground.kind === 'gradient' && (changed.ground.to = $event))"
        />
        <RangeInput name="Angle" unit="°" :least="0" :most="360" :value="look.ground.angle" @change="change('Turn the gradient', 'ground angle', (changed) => changed.ground.kind === 'gradient' && (changed.ground.angle = $event))" />
      </template>
      <p class="quiet small">A picture behind the form is set with the picture, under Words.</p>
    </details>

    <details data-part="arrangement">
      <summary>Arrangement and space</summary>
      <Choice
        :model-value="look.arrangement"
        name="arrangement"
        :options="[
          { value: 'stacked', label: 'Under each other' },
          { value: 'line', label: 'In one line' },
        ]"
        @update:model-value="change('Arrange the fields', 'arrangement', (changed) => (changed.arrangement = $event))"
      />
      <Choice
        :model-value="look.align"
        name="align"
        :options="[
          { value: 'start', label: 'Start' },
          { value: 'center', label: 'Centre' },
          { value: 'end', label: 'End' },
        ]"
        @update:model-value="change('Align the text', 'align', (changed) => (changed.align = $event))"
      />
      <RangeInput name="Inside" unit="px" :least="0" :most="80" :value="look.space.inside" @change="set('space', 'inside', $event, 'Change the space inside')" />
      <RangeInput name="Between" unit="px" :least="2" :most="40" :value="look.space.gap" @change="set('space', 'gap', $event, 'Change the gaps')" />
      <RangeInput name="Around" unit="px" :least="0" :most="96" :value="look.space.outside" @change="set('space', 'outside', $event, 'Change the space around')" />
      <RangeInput name="Widest" unit="px" :least="240" :most="1280" :step="10" :value="look.space.width" @change="set('space', 'width', $event, 'Change the greatest width')" />
    </details>

    <details data-part="type">
      <summary>Type</summary>
      <label class="field">
        <span class="name">Font</span>
        <select class="plain-select" :value="look.type.font" @change="set('type', 'font', valueOf($event) as FontKey, 'Change the font')">
          <option v-for="key in fontKeys" :key="key" :value="key">{{ fontName(key) }}</option>
        </select>
      </label>
      <RangeInput name="Size" unit="%" :least="75" :most="150" :value="look.type.size" @change="set('type', 'size', $event, 'Change the text size')" />
      <RangeInput name="Heading" unit="%" :least="100" :most="300" :value="look.type.headingSize" @change="set('type', 'headingSize', $event, 'Change the heading’s size')" />
      <div class="two">
        <label class="field">
          <span class="name">Weight</span>
          <select class="plain-select" :value="look.type.weight" @change="set('type', 'weight', valueOf($event), 'Change the weight')">
            <option v-for="weight in ['400', '500', '600', '700']" :key="weight">{{ weight }}</option>
          </select>
        </label>
        <label class="field">
          <span class="name">Heading’s weight</span>
          <select class="plain-select" :value="look.type.headingWeight" @change="set('type', 'headingWeight', valueOf($event), 'Change the heading’s weight')">
            <option v-for="weight in ['400', '500', '600', '700', '800']" :key="weight">{{ weight }}</option>
          </select>
        </label>
      </div>
    </details>

    <details data-part="field">
      <summary>Fields</summary>
      <Choice
        :model-value="look.field.shape"
        name="field-shape"
        :options="[
          { value: 'box', label: 'Boxes' },
          { value: 'line', label: 'Lines' },
        ]"
        @update:model-value="set('field', 'shape', $event, 'Shape the fields')"
      />
      <Choice :model-value="look.field.size" name="field-size" :options="sizes" @update:model-value="set('field', 'size', $event, 'Size the fields')" />
      <RangeInput name="Corners" unit="px" :least="0" :most="40" :value="look.field.corner" @change="set('field', 'corner', $event, 'Round the fields')" />
    </details>

    <details data-part="button">
      <summary>Button</summary>
      <Choice
        :model-value="look.button.fill"
        name="button-fill"
        :options="[
          { value: 'full', label: 'Filled' },
          { value: 'outline', label: 'Outlined' },
        ]"
        @update:model-value="set('button', 'fill', $event, 'Fill the button')"
      />
      <Choice :model-value="look.button.size" name="button-size" :options="sizes" @update:model-value="set('button', 'size', $event, 'Size the button')" />
      <Choice
        :model-value="look.button.width"
        name="button-width"
        :options="[
          { value: 'text', label: 'As wide as its words' },
          { value: 'row', label: 'A whole row' },
        ]"
        @update:model-value="set('button', 'width', $event, 'Widen the button')"
      />
      <RangeInput name="Corners" unit="px" :least="0" :most="40" :value="look.button.corner" @change="set('button', 'corner', $event, 'Round the button')" />
    </details>

    <details data-part="border">
      <summary>Border and shadow</summary>
      <RangeInput name="Border" unit="px" :least="0" :most="8" :value="look.border.width" @change="set('border', 'width', $event, 'Change the border')" />
      <ColourInput name="Border" :value="look.border.colour" :effective="look.border.colour" :palette="palette" @change="$event && set('border', 'colour', $event, 'Colour the border')" />
      <RangeInput name="Corners" unit="px" :least="0" :most="40" :value="look.border.corner" @change="set('border', 'corner', $event, 'Round the form')" />
      <Choice
        :model-value="look.shadow"
        name="shadow"
        :options="[
          { value: 'none', label: 'No shadow' },
          { value: 'soft', label: 'Soft' },
          { value: 'lifted', label: 'Lifted' },
        ]"
        @update:model-value="change('Change the shadow', 'shadow', (changed) => (changed.shadow = $event))"
      />
    </details>

    <details data-part="answer">
      <summary>Answer and entrance</summary>
      <div class="field">
        <span class="name">The answer is</span>
        <Choice
          :model-value="look.result"
          name="result"
          :options="[
            { value: 'plain', label: 'Plain' },
            { value: 'framed', label: 'Framed' },
            { value: 'barred', label: 'With a bar' },
          ]"
          @update:model-value="change('Style the answer', 'result', (changed) => (changed.result = $event))"
        />
      </div>
      <div class="field">
        <span class="name">The form appears</span>
        <Choice
          :model-value="look.entrance"
          name="entrance"
          :options="[
            { value: 'none', label: 'At once' },
            { value: 'fade', label: 'Fading in' },
            { value: 'rise', label: 'Rising' },
          ]"
          @update:model-value="change('Change the entrance', 'entrance', (changed) => (changed.entrance = $event))"
        />
        <span class="quiet small">Still for people who asked their system for less motion.</span>
      </div>
    </details>

    <CustomCss :look="look" :draft="draft" />
  </div>
</template>

<style scoped>
.look {
  display: grid;
}
details {
  border-bottom: 1px solid var(--hairline);
}
details[open] {
  padding-bottom: var(--gap-4);
}
details > :not(summary) + * {
  margin-top: var(--gap-3);
}
summary {
  padding: var(--gap-3) 0;
  font-weight: 650;
  cursor: pointer;
}
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: var(--gap-3);
}
</style>

<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed, ref } from 'vue'
import { type Place, type Rule, selectorProblem } from '#core/rule'
import Choice from '../../../controls/Choice.vue'
import Labelled from '../../../controls/Labelled.vue'
import NumberInput from '../../../controls/NumberInput.vue'
import Select from '../../../controls/Select.vue'
import TypedInput from '../../../controls/TypedInput.vue'

/** Where on a page a rule puts its form, and how often. */
const { rule } = defineProps<{
  rule: Rule
  name: string
  /** A selector of all that are like the chosen part. */
  alike: string | null
  /** Of the part that was pressed, where another place is said. */
  pressed: string | null
}>()
const emit = defineEmits<{ change: [changes: Partial<Rule>] }>()

const kinds = [
  { value: 'post-end', label: 'At the end of each post' },
  { value: 'paragraph', label: 'After a paragraph of the text' },
  { value: 'heading', label: 'After a heading of the text' },
  { value: 'entry', label: 'On pages that list many posts' },
  { value: 'above', label: 'Above the foot of the page' },
  { value: 'below', label: 'Below the foot of the page' },
  { value: 'edge', label: 'Fixed to the lower edge of the window' },
  { value: 'selector', label: 'Beside a part that I choose' },
] as const
type Kind = (typeof kinds)[number]['value']

const kind = computed((): Kind => {
  const { place } = rule
  return place.kind === 'text' ? place.of : place.kind === 'foot' ? place.at : place.kind
})
const placeFor: Record<Kind, () => Place> = {
  'post-end': () => ({ kind: 'post-end' }),
  paragraph: () => ({ kind: 'text', of: 'paragraph', number: 1 }),
  heading: () => ({ kind: 'text', of: 'heading', number: 1 }),
  entry: () => ({ kind: 'entry', number: 2 }),
  above: () => ({ kind: 'foot', at: 'above' }),
  below: () => ({ kind: 'foot', at: 'below' }),
  edge: () => ({ kind: 'edge' }),
  selector: () => ({ kind: 'selector', at: 'after', selector: 'main' }),
}
const choose = (chosen: Kind | '') => {
  if (chosen !== '') emit('change', { place: placeFor[chosen](), times: 'once' })
}
const number = computed(() => ('number' in rule.place ? rule.place.number : null))
const setNumber = (value: number | null) => {
  if ('number' in rule.place) emit('change', { place: { ...rule.place, number: value ?? 1 } })
}
const hasMany = computed(() => ['paragraph', 'heading', 'entry', 'selector'].includes(kind.value))
const times = computed(() => [
  { value: 'once' as const, label: number.value === null ? 'At the first' : 'At this one' },
  { value: 'each' as const, label: 'At each' },
])

const sides = [
  { value: 'before', label: 'Before it' },
  { value: 'after', label: 'After it' },
  { value: 'inside', label: 'Inside, at its end' },
] as const
const refused = ref<string | null>(null)
const problem = computed(() => (refused.value === null ? null : selectorProblem(refused.value)))
function setSelector(selector: string): void {
  refused.value = selectorProblem(selector) === null ? null : selector
  if (refused.value === null && rule.place.kind === 'selector')
    emit('change', { place: { ...rule.place, selector: selector.trim() } })
}
</script>

<template>
  <div class="place">
    <Labelled label="Where">
      <div class="row kept-together">
        <Select label="Where" :model-value="kind" :options="kinds" @update:model-value="choose" />
        <NumberInput
          v-if="number !== null && rule.times === 'once'"
          :value="number"
          :least="1"
          :most="50"
          label="Which one, from the top"
          @change="setNumber"
        />
      </div>
    </Labelled>
    <template v-if="rule.place.kind === 'selector'">
      <Labelled
        label="The part, as a CSS selector"
        :problem="problem"
        hint="Press a part of the page to have it written here."
      >
        <TypedInput
          :value="refused ?? rule.place.selector"
          :is-refused="refused !== null"
          maxlength="300"
          spellcheck="false"
          @change="setSelector"
        />
      </Labelled>
      <Choice
        :model-value="rule.place.at"
        :name="`side-${name}`"
        label="On which side"
        :options="sides"
        @update:model-value="
          $event !== '' && rule.place.kind === 'selector' && emit('change', { place: { ...rule.place, at: $event } })
        "
      />
      <p v-if="alike !== null && alike !== rule.place.selector" class="small">
        There are others like it:
        <ElButton
          link
          type="primary"
          @click="
            rule.place.kind === 'selector' &&
            emit('change', { place: { ...rule.place, selector: alike }, times: 'each' })
          "
          >at each of them ({{ alike }})</ElButton
        >
      </p>
    </template>
    <p v-if="pressed !== null && rule.place.kind !== 'selector'" class="small">
      That is what you pressed, on any page.
      <ElButton
        link
        type="primary"
        @click="emit('change', { place: { kind: 'selector', at: 'after', selector: pressed }, times: 'once' })"
        >Only beside this very part ({{ pressed }})</ElButton
      >
    </p>
    <Choice
      v-if="hasMany"
      :model-value="rule.times"
      :name="`times-${name}`"
      label="How often on one page"
      :options="times"
      @update:model-value="$event !== '' && emit('change', { times: $event })"
    />
  </div>
</template>

<style scoped>
.place {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-2);
}
.kept-together {
  flex-wrap: nowrap;
  width: 100%;
}
.kept-together > :last-child:not(:first-child) {
  flex: 0 0 96px;
  width: 96px;
}
p {
  margin: 0;
}
</style>

<script setup lang="ts">
import type { PopUp } from '#core/spot'
import Labelled from '../../controls/Labelled.vue'
import NumberInput from '../../controls/NumberInput.vue'
import Select from '../../controls/Select.vue'
import TypedInput from '../../controls/TypedInput.vue'
import ChosenPagesInput from './ChosenPagesInput.vue'

/** Where a pop-up appears, when, how often to one visitor, and on which pages. */
const { rules } = defineProps<{ rules: PopUp; /** Tells its choices from those of others. */ name: string }>()
const emit = defineEmits<{ change: [rules: PopUp] }>()

const change = (changes: Partial<PopUp>) => emit('change', { ...rules, ...changes })

const positions = [
  { value: 'middle', label: 'In the middle' },
  { value: 'bottom-end', label: 'In the corner at the end' },
  { value: 'bottom-start', label: 'In the corner at the start' },
] as const
const moments = [
  { value: 'at-once', label: 'At once' },
  { value: 'seconds', label: 'After some seconds' },
  { value: 'half', label: 'After half of the page' },
  { value: 'leaving', label: 'When somebody is about to leave' },
] as const
const often = [
  { value: 'every-visit', label: 'Once a visit' },
  { value: 'days', label: 'Once in some days' },
  { value: 'once', label: 'Once, ever' },
] as const
function setWhen(kind: PopUp['when']['kind'] | ''): void {
  if (kind === 'seconds') change({ when: { kind, seconds: 20 } })
  else if (kind !== '') change({ when: { kind } })
}
const setCampaigns = (text: string) =>
  change({
    campaigns: text
      .split(/[\n,]/)
      .map((word) => word.trim().slice(0, 60))
      .filter(Boolean)
      .slice(0, 20),
  })
function setOften(kind: PopUp['often']['kind'] | ''): void {
  if (kind === 'days') change({ often: { kind, days: 30 } })
  else if (kind !== '') change({ often: { kind } })
}
</script>

<template>
  <fieldset class="rules">
    <legend>When the pop-up appears</legend>
    <Labelled label="Where">
      <Select
        :model-value="rules.position"
        :options="positions"
        @update:model-value="$event !== '' && change({ position: $event })"
      />
    </Labelled>
    <Labelled label="When">
      <div class="row kept-together">
        <Select label="When" :model-value="rules.when.kind" :options="moments" @update:model-value="setWhen" />
        <NumberInput
          v-if="rules.when.kind === 'seconds'"
          :value="rules.when.seconds"
          :least="1"
          :most="600"
          label="Seconds"
          @change="change({ when: { kind: 'seconds', seconds: $event ?? 20 } })"
        />
      </div>
    </Labelled>
    <Labelled label="How often to one visitor">
      <div class="row kept-together">
        <Select
          label="How often to one visitor"
          :model-value="rules.often.kind"
          :options="often"
          @update:model-value="setOften"
        />
        <NumberInput
          v-if="rules.often.kind === 'days'"
          :value="rules.often.days"
          :least="1"
          :most="365"
          label="Days"
          @change="change({ often: { kind: 'days', days: $event ?? 30 } })"
        />
      </div>
    </Labelled>
    <p v-if="rules.when.kind === 'leaving'" class="quiet small wide">
      With a mouse, when the pointer leaves the page at its top; on touch screens, on scrolling up fast.
    </p>
    <Labelled
      label="Only who came by these words"
      hint="Words of a campaign in the page’s address, with commas between."
    >
      <TypedInput :value="(rules.campaigns ?? []).join(', ')" placeholder="everybody" @change="setCampaigns" />
    </Labelled>
    <p class="quiet small">
      Who has joined on this site is not asked again{{
        rules.when.kind === 'half' ? '. On a page that hardly scrolls it comes after 20 seconds' : ''
      }}.
    </p>
    <ChosenPagesInput class="wide" :pages="rules.pages" :name="name" @change="change({ pages: $event })" />
  </fieldset>
</template>

<style scoped>
.rules {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(100%, 300px), 1fr));
  gap: var(--gap-2) var(--gap-4);
  margin: 0;
  padding: 0;
  border: 0;
}
legend {
  margin-bottom: var(--gap-2);
  padding: 0;
  font-weight: 600;
}
.kept-together {
  flex-wrap: nowrap;
  width: 100%;
}
.kept-together > :last-child:not(:first-child) {
  flex: 0 0 96px;
  width: 96px;
}
.wide {
  grid-column: 1 / -1;
}
@media (max-width: 900px) {
  .rules {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>

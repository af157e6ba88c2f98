<script setup lang="ts">
import { ElButton, ElCheckbox } from 'element-plus'
import { computed, ref } from 'vue'
import { type TagSeparator, type Tally, type Target, undecidedIn } from '#core/import'
import { A_DATE, type Column } from '#core/list'
import Choice from '../../controls/Choice.vue'
import Select from '../../controls/Select.vue'
import { choicesFor, wordsFor } from './column-words'

/** Every word of a column that says who is on the list, every spelling of its dates, every tag: with its count, and what it means. */
const { name, target, tally, columns } = defineProps<{
  name: string
  target: Target
  tally: Tally
  columns: readonly Column[]
}>()
const emit = defineEmits<{ decide: [target: Target] }>()

const SHOWN = 12
const isWhole = ref(false)
const undecided = computed(() => new Set(undecidedIn(target, tally, columns).map(({ key }) => key)))
/** What is undecided stands first. */
const words = computed(() =>
  wordsFor(target, tally, columns).toSorted(
    (one, other) => Number(undecided.value.has(other.key)) - Number(undecided.value.has(one.key)),
  ),
)
const shown = computed(() => (isWhole.value ? words.value : words.value.slice(0, SHOWN)))

function decide(key: string, decision: string): void {
  const next: Target =
    target.to === 'status'
      ? { ...target, means: { ...target.means, [key]: decision as (typeof target.means)[string] } }
      : target.to === 'joined'
        ? { ...target, read: { ...target.read, [key]: decision as (typeof target.read)[string] } }
        : target.to === 'column'
          ? { ...target, means: { ...target.means, [key]: decision as NonNullable<typeof target.means>[string] } }
          : target
  emit('decide', next)
}

function keep(tag: string, isKept: boolean): void {
  if (target.to !== 'tags') return
  const leftOut = target.leftOut.filter((one) => one !== tag)
  emit('decide', { ...target, leftOut: isKept ? leftOut : [...leftOut, tag] })
}
</script>

<template>
  <div v-if="undecided.has(null)" class="box problem small" role="alert">
    More than 200 different words stand in it, too many for what it is to be. Choose something else for “{{ name }}”.
  </div>
  <div v-else-if="target.to === 'tags'" class="box">
    <div class="line">
      <span class="small">Between tags stands a</span>
      <Choice
        :model-value="target.separator"
        :name="`between ${name}`"
        label="Between tags stands a"
        :options="[
          { value: ',', label: 'comma' },
          { value: ';', label: 'semicolon' },
          { value: '|', label: 'upright line' },
        ]"
        @update:model-value="$event && emit('decide', { ...target, separator: $event as TagSeparator, leftOut: [] })"
      />
    </div>
    <p v-if="words.length === 0" class="quiet small">More than 200 different tags; all of them come along.</p>
    <div v-else class="tags">
      <ElCheckbox
        v-for="{ key, example, count } in shown"
        :key="key"
        :model-value="!target.leftOut.includes(key)"
        @update:model-value="keep(key, $event === true)"
        >{{ example }} <span class="quiet small">{{ count.toLocaleString('en') }}</span></ElCheckbox
      >
    </div>
    <ElButton v-if="words.length > shown.length" size="small" @click="isWhole = true"
      >Show the other {{ words.length - shown.length }}</ElButton
    >
  </div>
  <div v-else-if="words.length > 0" class="box">
    <p class="small quiet">
      {{ target.to === 'joined' ? 'How each way of writing a date is read' : 'What each word means' }}
    </p>
    <ul>
      <li v-for="{ key, example, count } in shown" :key="key" :class="{ open: undecided.has(key) }">
        <span class="word">{{ key === A_DATE ? 'a date' : example || 'nothing in it' }}</span>
        <span class="quiet small count">{{ count.toLocaleString('en') }}</span>
        <span v-if="key === ''" class="quiet small">as chosen below</span>
        <Select
          v-else
          :model-value="
            (target.to === 'status'
              ? target.means[key]
              : target.to === 'joined'
                ? target.read[key]
                : target.to === 'column'
                  ? target.means?.[key]
                  : '') ?? ''
          "
          :label="`What “${example}” in ${name} means`"
          placeholder="Not decided yet"
          :options="choicesFor(target, example)"
          @update:model-value="decide(key, $event)"
        />
      </li>
    </ul>
    <ElButton v-if="words.length > shown.length" size="small" @click="isWhole = true"
      >Show the other {{ words.length - shown.length }}</ElButton
    >
  </div>
</template>

<style scoped>
.box {
  display: grid;
  gap: var(--gap-2);
  justify-items: start;
  padding: var(--gap-2) var(--gap-4);
  border-left: 2px solid var(--line-soft);
}
.line,
.tags {
  display: flex;
  flex-wrap: wrap;
  gap: var(--gap-2) var(--gap-4);
  align-items: center;
}
ul {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(360px, 100%), 1fr));
  gap: var(--gap-2) var(--gap-5, 32px);
  width: 100%;
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto 170px;
  gap: var(--gap-3);
  align-items: center;
}
.word {
  overflow-wrap: anywhere;
}
.count {
  font-variant-numeric: tabular-nums;
}
.open .word {
  color: var(--raspberry);
  font-weight: 600;
}
</style>

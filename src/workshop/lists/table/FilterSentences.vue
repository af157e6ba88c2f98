<script setup lang="ts">
import { Plus, Trash2 } from '@lucide/vue'
import { ElButton, ElDatePicker, ElInput, ElInputNumber } from 'element-plus'
import { computed } from 'vue'
import type { FormId, SpotId } from '#core/ids'
import { type Condition, type Filter, type List, memberStatuses, type BatchRecord } from '#core/list'
import { spotName } from '#core/spot'
import Select from '../../controls/Select.vue'
import { useWorkspace } from '../../data'
import { statusNames } from '../status'

/** A filter, a sentence for each condition. */
const filter = defineModel<Filter>({ required: true })
const { list, tags, imports } = defineProps<{
  list: List
  /** Those that anybody has. */
  tags: readonly string[]
  imports: readonly BatchRecord[]
}>()
const workspace = useWorkspace()

type About = Condition['about']
const abouts = computed(() => [
  { value: 'tag', label: 'Tag' },
  { value: 'status', label: 'Status' },
  { value: 'joined-within', label: 'Joined' },
  { value: 'joined-before', label: 'Joined before' },
  { value: 'joined-from', label: 'Joined on or after' },
  { value: 'form', label: 'Form' },
  { value: 'spot', label: 'Spot' },
  { value: 'page', label: 'Page' },
  { value: 'source', label: 'Source' },
  ...(imports.length > 0 ? [{ value: 'import', label: 'File' }] : []),
  { value: 'added', label: 'Added' },
  { value: 'column email', label: 'Email' },
  ...list.columns.map(({ key, label }) => ({ value: `column ${key}`, label })),
])
const forms = computed(() => workspace.forms.map(({ id, name }) => ({ value: id, label: name })))
const spots = computed(() =>
  workspace.spots.map((spot) => ({ value: spot.id, label: spotName(spot, workspace.sites) })),
)
const files = computed(() =>
  imports.map(({ id, purpose }) => ({ value: id, label: purpose.kind === 'import' ? purpose.from : '' })),
)
const statuses = memberStatuses.map((status) => ({ value: status, label: statusNames[status] }))
const columnWords = {
  is: 'is',
  'is-not': 'is not',
  has: 'has',
  'has-not': 'does not have',
  empty: 'is empty',
  filled: 'is filled',
} as const
const hows = Object.entries(columnWords).map(([value, label]) => ({ value, label }))

function isWords(about: About): { value: string; label: string }[] {
  const words: Partial<Record<About, [string, string]>> = {
    page: ['has', 'does not have'],
    source: ['has', 'does not have'],
    'joined-within': ['in the last', 'not in the last'],
    import: ['brought in from', 'not brought in from'],
    added: ['by hand', 'not by hand'],
  }
  const [yes, no] = words[about] ?? ['is', 'is not']
  return [
    { value: 'yes', label: yes },
    { value: 'no', label: no },
  ]
}

function started(about: string): Condition {
  const today = new Date().toISOString().slice(0, 10)
  if (about.startsWith('column '))
    return { about: 'column', column: about.slice('column '.length), how: 'has', text: '' } as Condition
  switch (about as About) {
    case 'status':
      return { about: 'status', is: true, status: 'confirmed' }
    case 'form':
      return { about: 'form', is: true, form: forms.value[0]?.value ?? ('none' as FormId) }
    case 'spot':
      return { about: 'spot', is: true, spot: spots.value[0]?.value ?? ('none' as SpotId) }
    case 'page':
      return { about: 'page', is: true, page: '' }
    case 'source':
      return { about: 'source', is: true, source: '' }
    case 'import':
      return { about: 'import', is: true, batch: imports[0]!.id }
    case 'added':
      return { about: 'added', is: true }
    case 'joined-within':
      return { about: 'joined-within', is: true, days: 30 }
    case 'joined-before':
      return { about: 'joined-before', day: today }
    case 'joined-from':
      return { about: 'joined-from', day: today }
    default:
      return { about: 'tag', is: true, tag: tags[0] ?? '' }
  }
}

const nameOf = (condition: Condition) => (condition.about === 'column' ? `column ${condition.column}` : condition.about)
const change = (at: number, changes: object) =>
  (filter.value = {
    ...filter.value,
    conditions: filter.value.conditions.with(at, { ...filter.value.conditions[at]!, ...changes } as Condition),
  })
const begin = (at: number, about: string) =>
  (filter.value = { ...filter.value, conditions: filter.value.conditions.with(at, started(about)) })
const add = () => (filter.value = { ...filter.value, conditions: [...filter.value.conditions, started('tag')] })
const drop = (at: number) => (filter.value = { ...filter.value, conditions: filter.value.conditions.toSpliced(at, 1) })
/** One that nobody has any more stays to be chosen. */
const tagChoices = (chosen: string) =>
  [...new Set([...tags, chosen])].filter(Boolean).map((tag) => ({ value: tag, label: tag }))
</script>

<template>
  <div class="sentences" role="group" aria-label="Filter">
    <div v-for="(condition, at) in filter.conditions" :key="at" class="sentence">
      <span v-if="at === 0" class="joint">Where</span>
      <Select
        v-else
        class="joint"
        label="Joined by"
        :model-value="filter.join"
        :options="[
          { value: 'and', label: 'and' },
          { value: 'or', label: 'or' },
        ]"
        @update:model-value="filter = { ...filter, join: $event === 'or' ? 'or' : 'and' }"
      />
      <Select
        class="about"
        label="What is looked at"
        :model-value="nameOf(condition)"
        :options="abouts"
        @update:model-value="begin(at, $event)"
      />
      <Select
        v-if="'is' in condition"
        class="is"
        label="Whether it is so"
        :model-value="condition.is ? 'yes' : 'no'"
        :options="isWords(condition.about)"
        @update:model-value="change(at, { is: $event === 'yes' })"
      />
      <Select
        v-if="condition.about === 'column'"
        class="is"
        label="How it is compared"
        :model-value="condition.how"
        :options="hows"
        @update:model-value="change(at, { how: $event })"
      />
      <Select
        v-if="condition.about === 'status'"
        class="value"
        label="Which status"
        :model-value="condition.status"
        :options="statuses"
        @update:model-value="change(at, { status: $event })"
      />
      <Select
        v-else-if="condition.about === 'tag'"
        class="value"
        label="Which tag"
        :model-value="condition.tag"
        :options="tagChoices(condition.tag)"
        @update:model-value="change(at, { tag: $event })"
      />
      <Select
        v-else-if="condition.about === 'form'"
        class="value"
        label="Which form"
        :model-value="condition.form"
        :options="forms"
        @update:model-value="change(at, { form: $event })"
      />
      <Select
        v-else-if="condition.about === 'spot'"
        class="value"
        label="Which spot"
        :model-value="condition.spot"
        :options="spots"
        @update:model-value="change(at, { spot: $event })"
      />
      <Select
        v-else-if="condition.about === 'import'"
        class="value"
        label="Which file"
        :model-value="condition.batch"
        :options="files"
        @update:model-value="change(at, { batch: $event })"
      />
      <ElInput
        v-else-if="condition.about === 'page' || condition.about === 'source'"
        class="value"
        :aria-label="condition.about === 'page' ? 'Words of the page' : 'Words of the source'"
        :model-value="condition.about === 'page' ? condition.page : condition.source"
        @update:model-value="change(at, { [condition.about]: $event })"
      />
      <span v-else-if="condition.about === 'joined-within'" class="value row">
        <ElInputNumber
          aria-label="How many days"
          :model-value="condition.days"
          :min="1"
          :max="36500"
          :step-strictly="true"
          controls-position="right"
          @update:model-value="change(at, { days: $event ?? 1 })"
        />
        days
      </span>
      <ElDatePicker
        v-else-if="condition.about === 'joined-before' || condition.about === 'joined-from'"
        class="value"
        aria-label="Which day"
        :model-value="condition.day"
        value-format="YYYY-MM-DD"
        :clearable="false"
        @update:model-value="$event && change(at, { day: $event })"
      />
      <ElInput
        v-else-if="condition.about === 'column' && condition.how !== 'empty' && condition.how !== 'filled'"
        class="value"
        aria-label="Words to compare with"
        :model-value="condition.text"
        @update:model-value="change(at, { text: $event })"
      />
      <ElButton text aria-label="Take this condition away" @click="drop(at)"><Trash2 :size="16" /></ElButton>
    </div>
    <span class="row">
      <ElButton @click="add"
        ><Plus :size="16" /><span>{{
          filter.conditions.length === 0 ? 'A condition' : 'Another condition'
        }}</span></ElButton
      >
      <slot />
    </span>
  </div>
</template>

<style scoped>
.sentences {
  display: grid;
  gap: var(--gap-2);
}
.sentence {
  display: flex;
  flex-wrap: wrap;
  gap: var(--gap-2);
  align-items: center;
}
.joint {
  width: 84px;
  flex: none;
}
.about {
  width: 170px;
}
.is {
  width: 170px;
}
.value {
  width: 240px;
}
</style>

<script setup lang="ts">
import { Filter as FilterIcon, Trash2 } from '@lucide/vue'
import { ElButton, ElInput } from 'element-plus'
import { computed, ref, shallowRef, watch } from 'vue'
import { sameValue } from '#core/json'
import { type BatchRecord, type Filter, type List, withoutUnsaid } from '#core/list'
import { useWorkspace } from '../../data'
import { useNotices } from '../../notices'
import { useMembers } from '../../people'
import FilterSentences from './FilterSentences.vue'

/** Views of a list: everybody, the usual ones, and its owner's own filters, each with how many there are. */
const filter = defineModel<Filter>({ required: true })
const { list } = defineProps<{ list: List }>()
const workspace = useWorkspace()
const members = useMembers()
const notices = useNotices()

const EVERYBODY: Filter = { join: 'and', conditions: [] }
const status = (...all: ('confirmed' | 'waiting' | 'left' | 'removed' | 'bounced')[]): Filter => ({
  join: 'or',
  conditions: all.map((one) => ({ about: 'status', is: true, status: one })),
})
const usual = [
  { name: 'Everybody', filter: EVERYBODY },
  { name: 'On the list', filter: status('confirmed') },
  { name: 'To confirm', filter: status('waiting') },
  { name: 'Gone', filter: status('left', 'removed', 'bounced') },
]
const saved = computed(() => list.filters ?? [])
const views = computed(() => [...usual, ...saved.value])
const counts = shallowRef<readonly number[]>([])
const tags = shallowRef<readonly string[]>([])
const imports = shallowRef<readonly BatchRecord[]>([])
let asked = 0
watch(
  [views, () => list.id, () => members.changes],
  async () => {
    const mine = (asked += 1)
    const [many, tagCounts, batches] = await Promise.all([
      members.ask(
        'count',
        views.value.map((view) => ({ list: list.id, filter: view.filter })),
      ),
      members.ask('tagCounts', list.id),
      members.ask('batches', list.id),
    ])
    if (mine !== asked) return
    counts.value = many
    tags.value = tagCounts.map(({ tag }) => tag)
    imports.value = batches.filter(({ purpose }) => purpose.kind === 'import')
  },
  { immediate: true },
)
defineExpose({ tags, imports })

const isOpen = ref(false)
const name = ref('')
const current = computed(() => views.value.findIndex((view) => sameValue(view.filter, filter.value)))
const currentSaved = computed(() => saved.value.find((view) => sameValue(view.filter, filter.value)) ?? null)

async function save(): Promise<void> {
  const named = name.value.trim()
  if (named === '') return
  const others = saved.value.filter((view) => view.name !== named)
  // What says nothing is not kept: a filter is written by as well.
  const whole = withoutUnsaid(filter.value)
  await workspace.changeList(list.id, { filters: [...others, { name: named, filter: whole }] })
  filter.value = whole
  name.value = ''
  notices.done(`The filter “${named}” is saved.`)
}

async function drop(): Promise<void> {
  const before = saved.value
  const gone = currentSaved.value
  if (gone === null) return
  await workspace.changeList(list.id, { filters: before.filter((view) => view !== gone) })
  notices.done(`The filter “${gone.name}” is gone.`, () => workspace.changeList(list.id, { filters: [...before] }))
}
</script>

<template>
  <div class="bar">
    <div class="views" role="group" aria-label="Views of this list">
      <ElButton
        v-for="(view, at) in views"
        v-show="at === 0 || at >= usual.length || at === current || (counts[at] ?? 0) > 0"
        :key="view.name"
        :class="{ current: at === current }"
        :aria-pressed="at === current"
        @click="filter = view.filter"
      >
        {{ view.name }}<span class="count">{{ counts[at]?.toLocaleString('en') ?? '' }}</span>
      </ElButton>
      <ElButton :aria-expanded="isOpen || current < 0" @click="isOpen = !isOpen"
        ><FilterIcon :size="16" /><span>Filter</span></ElButton
      >
    </div>
    <div v-if="isOpen || current < 0" class="open sheet">
      <FilterSentences v-model="filter" :list="list" :tags="tags" :imports="imports">
        <template v-if="current < 0 && withoutUnsaid(filter).conditions.length > 0">
          <form novalidate class="row" @submit.prevent="save">
            <ElInput
              v-model="name"
              class="name"
              :maxlength="100"
              placeholder="Name for this filter"
              aria-label="Name for this filter"
            />
            <ElButton native-type="submit" :disabled="name.trim() === ''">Save the filter</ElButton>
          </form>
          <ElButton text @click="filter = EVERYBODY">Show everybody</ElButton>
        </template>
        <ElButton v-if="currentSaved" text @click="drop"
          ><Trash2 :size="16" /><span>Take “{{ currentSaved.name }}” away</span></ElButton
        >
      </FilterSentences>
    </div>
  </div>
</template>

<style scoped>
.bar {
  display: grid;
  gap: var(--gap-3);
}
.views {
  display: flex;
  flex-wrap: wrap;
  gap: var(--gap-2);
}
@media (max-width: 640px) {
  .views {
    flex-wrap: nowrap;
    padding-block-end: 2px;
    overflow-x: auto;
  }
  .views .el-button {
    flex: none;
  }
}
.views .el-button {
  margin: 0;
}
.current {
  border-color: var(--moss);
  color: var(--moss);
  font-weight: 600;
}
.count {
  margin-inline-start: var(--gap-2);
  color: var(--quiet);
  font-weight: 400;
}
.open {
  padding: var(--gap-3) var(--gap-4);
}
.name {
  width: 220px;
}
</style>

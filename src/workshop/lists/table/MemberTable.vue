<script setup lang="ts">
import { Download } from '@lucide/vue'
import { useElementSize, useWindowSize } from '@vueuse/core'
import { type Column, ElButton, ElCheckbox, ElEmpty, ElInput, ElSkeleton, ElTableV2 } from 'element-plus'
import { computed, ref, shallowRef, useTemplateRef } from 'vue'
import { RouterLink } from 'vue-router'
import type { FormId } from '#core/ids'
import { type Filter, type List, memberStatuses, type MemberStatus, type Wanted, withoutUnsaid } from '#core/list'
import { spotName } from '#core/spot'
import { vHint } from '../../controls'
import Select from '../../controls/Select.vue'
import { type QueuedCommand, queuedCommands, useLive, useWorkspace } from '../../data'
import MemberEditor from '../MemberEditor.vue'
import { type ShownMember, useMembers } from '../../people'
import { peopleCount } from '../people-count'
import { statusNames } from '../status'
import BulkActions from './BulkActions.vue'
import { useCellWords } from './cell-words'
import { useChosen } from './chosen'
import FilterBar from './FilterBar.vue'
import { isBlank, useFound } from './found'
import HeadCell from './HeadCell.vue'
import { narrowed, useTableLayout } from './layout'
import LayoutMenu from './LayoutMenu.vue'
import RowActions from './RowActions.vue'
import { useSorting } from './sorting'

/** The people on a list, newest first; those of one form alone where `form` says so. */
const { list, form } = defineProps<{ list: List; form?: FormId }>()

const ROW_PX = 40
/** Where there is no room for columns, each is a card of two lines. */
const CARD_PX = 60
const NARROW_PX = 600
const NARROW_ACT_PX = 84
const CHOOSE_PX = 44
const ACT_PX = 116
const LEAST_PX = 60
/** What the table tells of the rows that it draws. */
type Rendered = { rowCacheStart: number; rowCacheEnd: number }
const workspace = useWorkspace()
const members = useMembers()
const queued = useLive(
  async () => (await queuedCommands()).filter(({ command }) => command.list === list.id),
  [] as QueuedCommand[],
  [() => list.id],
)
const search = ref('')
const filter = shallowRef<Filter>({ join: 'and', conditions: [] })
/** What it says so far: a condition whose value is still to be typed filters nothing. */
const said = computed(() => withoutUnsaid(filter.value))
/** Of one form's people alone, where filters would be too much. */
const status = ref<MemberStatus | 'all' | ''>('all')
const { order, sort, orders, isSortable, sortBy } = useSorting(() => list)
const edited = ref<ShownMember | null>(null)

const statuses = [
  { value: 'all' as const, label: 'Everyone' },
  ...memberStatuses.map((one) => ({ value: one, label: statusNames[one] })),
]
/** Spots whose name or site has the words that are looked for. */
function spotsWith(words: string): string[] {
  if (words === '') return []
  return workspace.spots
    .filter((spot) => spotName(spot, workspace.sites).toLowerCase().includes(words))
    .map(({ id }) => id)
}
const wanted = (): Wanted => ({
  list: list.id,
  ...(form !== undefined && { form }),
  ...(status.value !== 'all' && status.value !== '' && { status: status.value }),
  ...(said.value.conditions.length > 0 && { filter: said.value }),
  search: search.value,
  spots: spotsWith(search.value.trim().toLowerCase()),
  sort: sort.value,
})
const isAnySought = computed(() => search.value !== '' || status.value !== 'all' || said.value.conditions.length > 0)
const { rows: found, isWhole, isEmpty, isCurrent, see } = useFound(wanted, queued)
/** Null until it is known; of a whole list from the last time, until everybody is here. */
const count = computed(() => {
  if (isWhole.value) return found.value?.length ?? null
  const counts =
    form === undefined && search.value.trim() === '' && said.value.conditions.length === 0
      ? members.countsOf(list.id)
      : null
  if (counts === null) return null
  const { status: one } = wanted()
  return one === undefined ? Object.values(counts).reduce((sum, many) => sum + many, 0) : counts[one]
})
const nobody = computed(() => {
  const counts = members.countsOf(list.id)
  const others = counts === null ? 0 : Object.values(counts).reduce((sum, many) => sum + many, 0)
  if (form === undefined || others === 0)
    return 'Nobody is on this list yet. Put a form’s code on a page and sign up yourself: you appear here at once.'
  return `Nobody has come through this form yet. On the list ${others === 1 ? 'is one person' : `are ${others} people`} from elsewhere.`
})
const place = useTemplateRef('place')
const { width: room } = useElementSize(place)
const { height: windowHeight } = useWindowSize()
/** As high as its rows, at most most of the window: longer lists are scrolled within. */
const height = computed(() =>
  Math.min((found.value?.length ?? 0) * rowHeight.value + ROW_PX + 10, Math.max(320, windowHeight.value - 180)),
)
const layout = useTableLayout(() => list)
const chosen = useChosen(wanted, count)
const bar = useTemplateRef('bar')
const bulk = useTemplateRef('bulk')
const wordsIn = useCellWords(() => bar.value?.imports ?? [])
/** While it is dragged, the width of a column. */
const dragged = shallowRef<{ key: string; width: number } | null>(null)
async function endDrag(): Promise<void> {
  const last = dragged.value
  if (last !== null) await layout.widen(last.key, last.width)
  dragged.value = null
}
const isNarrow = computed(() => room.value < NARROW_PX)
const rowHeight = computed(() => (isNarrow.value ? CARD_PX : ROW_PX))
const columns = computed((): Column<ShownMember>[] => {
  if (isNarrow.value) {
    const choose = form === undefined ? [{ key: 'choose', title: '', width: CHOOSE_PX }] : []
    const width = room.value - 2 - NARROW_ACT_PX - choose.length * CHOOSE_PX
    return [...choose, { key: 'card', title: 'People', width }, { key: 'act', title: 'Change', width: NARROW_ACT_PX }]
  }
  const besides = (form === undefined ? CHOOSE_PX : 0) + ACT_PX
  const shown = narrowed(layout.shown.value, room.value - 2 - besides).map(({ key, title, width }) => ({
    key,
    title,
    width: dragged.value?.key === key ? dragged.value.width : width,
  }))
  const set = list.table?.widths ?? {}
  const taken = shown.reduce((sum, { width }) => sum + width, 0) + besides
  // What there is of spare room goes to what is cut off first, but for what was given a width.
  const flexible = shown.filter(({ key }) => ['email', 'spot', 'page'].includes(key) && set[key] === undefined)
  const spare = Math.max(0, room.value - 2 - taken) / Math.max(1, flexible.length)
  return [
    ...(form === undefined ? [{ key: 'choose', title: '', width: CHOOSE_PX }] : []),
    ...shown.flatMap((column) => {
      const wide = flexible.includes(column) ? { ...column, width: column.width + spare } : column
      // Beside the address it is in sight however wide the rest is; fixed columns would be rows of their own.
      return column.key === 'email' ? [wide, { key: 'act', title: 'Change', width: ACT_PX }] : [wide]
    }),
  ]
})
const sortOfHead = ({ columns: heads, headerIndex }: { columns: Column[]; headerIndex: number }) =>
  heads[headerIndex]?.key === sort.value.by ? { 'aria-sort': sort.value.isDescending ? 'descending' : 'ascending' } : {}
</script>

<template>
  <div class="members">
    <FilterBar v-if="form === undefined" ref="bar" v-model="filter" :list="list" />
    <div class="row tools">
      <ElInput
        v-model="search"
        class="search"
        type="search"
        placeholder="Find an address, a name, a spot"
        aria-label="Find an address, a name, a spot or a page"
        clearable
      />
      <ElCheckbox
        v-if="form === undefined && count !== null && count > 0"
        :model-value="chosen.isEverybody.value"
        :indeterminate="chosen.count.value > 0 && !chosen.isEverybody.value"
        :disabled="!isCurrent"
        label="Choose all"
        aria-label="Choose all who are found"
        @change="chosen.toggleAll()"
      />
      <Select v-if="form !== undefined" v-model="status" class="menu" label="Status" :options="statuses" />
      <Select v-model="order" class="menu" label="Order" :options="orders" />
      <span class="quiet small" role="status">{{ count === null ? '' : peopleCount(count) }}</span>
      <ElButton
        v-if="count !== null && count > 0"
        :disabled="!isCurrent || bulk?.isSettling"
        @click="bulk?.save(wanted())"
        ><Download :size="16" /><span>Save as a file</span></ElButton
      >
      <LayoutMenu v-if="form === undefined && !isNarrow" :layout="layout" />
      <slot />
    </div>
    <BulkActions ref="bulk" :list="list" :chosen="chosen" :bar="bar" :is-current="isCurrent" />
    <ElEmpty v-if="isEmpty" class="sheet" :description="isAnySought ? 'Nobody matches.' : nobody" />
    <div v-else ref="place" class="table sheet">
      <ElSkeleton v-if="found === null" :rows="6" animated />
      <ElTableV2
        v-else-if="room > 0"
        fixed
        :columns="columns"
        :data="found as ShownMember[]"
        :width="room - 2"
        :height="height"
        :row-height="rowHeight"
        :header-height="ROW_PX"
        :header-cell-props="sortOfHead"
        :row-props="({ rowIndex }: { rowIndex: number }) => ({ 'aria-rowindex': rowIndex + 2 })"
        :row-class="({ rowData }: { rowData: ShownMember }) => (rowData.isPending ? 'pending' : '')"
        row-key="id"
        @rows-rendered="({ rowCacheStart, rowCacheEnd }: Rendered) => see(rowCacheStart, rowCacheEnd)"
      >
        <template #header-cell="{ column }">
          <span v-if="column.key === 'act'" class="only-heard">Change</span>
          <span v-else-if="column.key === 'choose'" class="only-heard">Chosen</span>
          <HeadCell
            v-else
            :title="column.title ?? ''"
            :width="column.width"
            :is-sortable="isSortable(String(column.key))"
            :sorted="sort.by !== column.key ? null : sort.isDescending ? 'down' : 'up'"
            :is-resizable="form === undefined && column.key !== 'card'"
            :is-dragged="dragged?.key === column.key"
            @sort="sortBy(String(column.key))"
            @drag="dragged = { key: String(column.key), width: Math.max(LEAST_PX, $event) }"
            @dragged="endDrag"
          />
        </template>
        <template #cell="{ column, rowData: member }">
          <span v-if="isBlank(member)" class="words" />
          <ElCheckbox
            v-else-if="column.key === 'choose'"
            :model-value="chosen.has(member.id)"
            :aria-label="`Choose ${member.email.typed}`"
            @change="chosen.toggle(member.id)"
          />
          <RowActions v-else-if="column.key === 'act'" :member="member" @edit="edited = member" />
          <span v-else-if="column.key === 'card'" class="person">
            <RouterLink class="words" :to="{ name: 'person', params: { id: list.id, member: member.id } }">{{
              member.email.typed
            }}</RouterLink>
            <span class="words small"
              ><span :class="member.status">{{ wordsIn('status', member) }}</span>
              <span class="quiet"> · {{ wordsIn('since', member) }}</span></span
            >
          </span>
          <RouterLink
            v-else-if="column.key === 'email'"
            v-hint="member.email.typed"
            class="words"
            :to="{ name: 'person', params: { id: list.id, member: member.id } }"
            >{{ member.email.typed }}</RouterLink
          >
          <span
            v-else
            v-hint="wordsIn(String(column.key), member)"
            class="words"
            :class="column.key === 'status' ? member.status : { quiet: column.key === 'page' }"
            >{{ wordsIn(String(column.key), member) }}</span
          >
        </template>
      </ElTableV2>
    </div>
    <MemberEditor v-if="edited" :list="list" :member="edited" @close="edited = null" />
  </div>
</template>

<style scoped>
.members {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-3);
}
.tools {
  gap: var(--gap-3);
}
.search {
  width: 280px;
}
.menu {
  width: 150px;
}
@media (max-width: 640px) {
  .tools {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto;
    gap: var(--gap-2) var(--gap-3);
  }
  .search,
  .menu {
    width: 100%;
  }
  .tools > .quiet {
    order: 1;
    grid-column: 1 / -1;
  }
}
.table {
  min-height: 120px;
  overflow: hidden;
}
.table > .el-skeleton {
  padding: var(--gap-4);
}
.words {
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.person {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
}
.removed,
.left,
.bounced {
  color: var(--quiet);
}
.confirmed {
  color: var(--moss);
}
.table :deep(.pending) .words {
  font-style: italic;
}
.table :deep(.el-table-v2__header-cell) {
  position: relative;
}
</style>

<script setup lang="ts">
import { ArrowDown, ArrowUp, Download, Pencil, Trash2 } from '@lucide/vue'
import { useElementSize, useWindowSize } from '@vueuse/core'
import { type Column, ElButton, ElCheckbox, ElEmpty, ElInput, ElSkeleton, ElTableV2 } from 'element-plus'
import { computed, ref, shallowRef, useTemplateRef } from 'vue'
import { RouterLink } from 'vue-router'
import type { BatchId, FormId } from '#core/ids'
import type { CameFrom } from '#core/journal'
import { type Filter, type List, memberStatuses, type MemberStatus, type Sort, valueOf, type Wanted } from '#core/list'
import { spotKinds, spotName } from '#core/spot'
import { vHint } from '../../controls/hint'
import Select from '../../controls/Select.vue'
import { shownMoment, shownPage } from '../../controls/shown'
import { type QueuedCommand, queuedCommands, useLive, useWorkspace } from '../../data'
import EraseDialog from '../EraseDialog.vue'
import { useLongWork } from '../long-work'
import { useMemberChanges } from '../member-changes'
import MemberEditor from '../MemberEditor.vue'
import { type ShownMember, useMembers } from '../members'
import { peopleCount } from '../people-count'
import { statusNames } from '../status'
import WorkProgress from '../WorkProgress.vue'
import BulkBar from './BulkBar.vue'
import BulkDialog from './BulkDialog.vue'
import { useChosen } from './chosen'
import FilterBar from './FilterBar.vue'
import { isBlank, useFound } from './found'
import { useTableLayout } from './layout'
import LayoutMenu from './LayoutMenu.vue'
import SavePeople from './SavePeople.vue'

/** The people on a list, newest first; those of one form alone where `form` says so. */
const { list, form } = defineProps<{ list: List; form?: FormId }>()

const ROW_PX = 40
const CHOOSE_PX = 44
const ACT_PX = 116
/** What the table tells of the rows that it draws. */
type Rendered = { rowCacheStart: number; rowCacheEnd: number }
const workspace = useWorkspace()
const changes = useMemberChanges()
const members = useMembers()
const queued = useLive(
  async () => (await queuedCommands()).filter(({ command }) => command.list === list.id),
  [] as QueuedCommand[],
  [() => list.id],
)
const search = ref('')
const filter = shallowRef<Filter>({ join: 'and', conditions: [] })
/** Of one form's people alone, where filters would be too much. */
const status = ref<MemberStatus | 'all' | ''>('all')
/** Chosen here as well as in the table's head, which the Tab key reaches after all of its rows. */
const order = ref<string>('since down')
const sort = computed((): Sort => {
  const [, by = 'since', way] = /^(.*) (up|down)$/.exec(order.value) ?? []
  return { by: by as Sort['by'], isDescending: way === 'down' }
})
const orders = computed(() => [
  { value: 'since down', label: 'Newest first' },
  { value: 'since up', label: 'Oldest first' },
  { value: 'email up', label: 'By address' },
  { value: 'status up', label: 'By status' },
  { value: 'tags up', label: 'By tags' },
  ...list.columns.map(({ key, label }) => ({ value: `column ${key} up`, label: `By ${label}` })),
  ...(/^(since|.* up$)/.test(order.value) ? [] : [{ value: order.value, label: 'The other way round' }]),
])
function sortBy(key: string): void {
  const isSame = sort.value.by === key
  // What came last is looked for first; words from their beginning.
  const isDescending = isSame ? !sort.value.isDescending : key === 'since'
  order.value = `${key} ${isDescending ? 'down' : 'up'}`
}
const sortable = (key: string) =>
  key === 'email' || key === 'status' || key === 'tags' || key === 'since' || key.startsWith('column ')
const edited = ref<ShownMember | null>(null)
const act = ref<'tag' | 'set' | 'copy' | 'remove' | 'restore' | null>(null)
const isErasing = ref(false)
/** Those who are written to a file: all who are found, or those that are chosen. */
const saving = shallowRef<{ wanted: Wanted; count: number } | null>(null)
const work = useLongWork()

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
  ...(filter.value.conditions.length > 0 && { filter: filter.value }),
  search: search.value,
  spots: spotsWith(search.value.trim().toLowerCase()),
  sort: sort.value,
})
const isAnySought = computed(() => search.value !== '' || status.value !== 'all' || filter.value.conditions.length > 0)
const { rows: found, isWhole, isEmpty, see } = useFound(wanted, queued)
/** Null until it is known; of a whole list from the last time, until everybody is here. */
const count = computed(() => {
  if (isWhole.value) return found.value?.length ?? null
  const counts =
    form === undefined && search.value.trim() === '' && filter.value.conditions.length === 0
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
  Math.min(((found.value?.length ?? 0) + 1) * ROW_PX + 10, Math.max(320, windowHeight.value - 180)),
)
const layout = useTableLayout(() => list)
const chosen = useChosen(wanted, count)
const bar = useTemplateRef('bar')
const tags = computed(() => bar.value?.tags ?? [])
/** While it is dragged, the width of a column. */
const dragged = shallowRef<{ key: string; width: number } | null>(null)
const columns = computed((): Column<ShownMember>[] => {
  const shown = layout.shown.value.map(({ key, title, width }) => ({
    key,
    title,
    width: dragged.value?.key === key ? dragged.value.width : width,
  }))
  const set = list.table?.widths ?? {}
  const taken = shown.reduce((sum, { width }) => sum + width, 0) + CHOOSE_PX + ACT_PX
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

function startDrag(event: PointerEvent, key: string, width: number): void {
  const handle = event.currentTarget as HTMLElement
  const from = event.clientX
  handle.setPointerCapture(event.pointerId)
  const move = ({ clientX }: PointerEvent) => (dragged.value = { key, width: Math.max(60, width + clientX - from) })
  const end = async () => {
    handle.removeEventListener('pointermove', move)
    const last = dragged.value
    if (last !== null) await layout.widen(key, last.width)
    dragged.value = null
  }
  handle.addEventListener('pointermove', move)
  handle.addEventListener('lostpointercapture', () => void end(), { once: true })
}

function onAct(what: 'tag' | 'set' | 'copy' | 'remove' | 'restore' | 'erase' | 'save'): void {
  if (what === 'erase') isErasing.value = true
  else if (what === 'save') saving.value = { wanted: chosen.wanted(), count: chosen.count.value }
  else act.value = what
}

/** What stands in a cell that holds words only. */
function wordsIn(key: string, member: ShownMember): string {
  if (isBlank(member)) return ''
  if (key.startsWith('column ')) return valueOf(member, key.slice('column '.length))
  switch (key) {
    case 'email':
      return member.email.typed
    case 'tags':
      return member.tags?.join(', ') ?? ''
    case 'status':
      return `${statusNames[member.status]}${member.isPending ? ', being sent' : ''}`
    case 'since':
      return shownMoment(member.joinedAt)
    case 'spot':
      return whereFrom(member)
    default:
      return member.from?.page ? pathOf(member.from.page) : ''
  }
}

/** The site stands beside it already: what tells pages apart is the rest. */
function pathOf(page: string): string {
  const path = URL.canParse(page) ? new URL(page).pathname : '/'
  return path === '/' ? shownPage(page) : path
}

function whereFrom(member: ShownMember): string {
  if (member.from === null) return member.batch === undefined ? 'added by hand' : broughtBy(member.batch)
  const spot = workspace.spot(member.from.spot)
  const site = spot && workspace.site(spot.site)
  const kind = spotKinds.find((one) => one.kind === spot?.kind)?.name.toLowerCase() ?? 'spot'
  return [...told(member.from.cameFrom), kind, site?.name ?? 'a deleted site'].join(' · ')
}

function broughtBy(batch: BatchId): string {
  const purpose = bar.value?.imports.find(({ id }) => id === batch)?.purpose
  return purpose?.kind === 'import' ? `from “${purpose.from}”` : 'brought over'
}

/** What the spot or the campaign is called, by which owners tell places apart: it stands first, where nothing cuts it off. */
function told(from: CameFrom | undefined): string[] {
  return [from?.source, from?.campaign].flatMap((words) => (words ? [words] : []))
}
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
        label="Choose all"
        aria-label="Choose all who are found"
        @change="chosen.toggleAll()"
      />
      <Select v-if="form !== undefined" v-model="status" class="menu" label="Status" :options="statuses" />
      <Select v-model="order" class="menu" label="Order" :options="orders" />
      <span class="quiet small" role="status">{{ count === null ? '' : peopleCount(count) }}</span>
      <ElButton v-if="count !== null && count > 0" @click="saving = { wanted: wanted(), count }"
        ><Download :size="16" /><span>Save as a file</span></ElButton
      >
      <LayoutMenu v-if="form === undefined" :layout="layout" />
      <slot />
    </div>
    <WorkProgress :work="work" />
    <BulkBar
      v-if="chosen.count.value > 0"
      :count="chosen.count.value"
      :is-busy="work.isWorking.value"
      @act="onAct"
      @clear="chosen.clear()"
    />
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
        :row-height="ROW_PX"
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
          <template v-else>
            <!-- By keyboard, the menu above does it: Tab comes to the head after all of the rows. -->
            <ElButton
              v-if="sortable(String(column.key))"
              text
              class="head"
              tabindex="-1"
              @click="sortBy(String(column.key))"
              ><span class="words">{{ column.title }}</span
              ><component
                :is="sort.isDescending ? ArrowDown : ArrowUp"
                v-if="sort.by === column.key"
                :size="14"
                aria-hidden="true"
            /></ElButton>
            <span v-else class="words">{{ column.title }}</span>
            <span
              v-if="form === undefined"
              class="handle"
              aria-hidden="true"
              @pointerdown="startDrag($event, String(column.key), column.width)"
            />
          </template>
        </template>
        <template #cell="{ column, rowData: member }">
          <span v-if="isBlank(member)" class="words" />
          <ElCheckbox
            v-else-if="column.key === 'choose'"
            :model-value="chosen.has(member.id)"
            :aria-label="`Choose ${member.email.typed}`"
            @change="chosen.toggle(member.id)"
          />
          <span v-else-if="column.key === 'act'" class="act">
            <ElButton
              text
              :disabled="member.isPending"
              :aria-label="`Change ${member.email.typed}`"
              @click="edited = member"
              ><Pencil :size="16"
            /></ElButton>
            <ElButton
              v-if="member.removal"
              text
              :aria-label="`Take back the removal of ${member.email.typed}`"
              @click="changes.takeBack(member)"
              >Take back</ElButton
            >
            <ElButton
              v-else-if="member.status === 'removed'"
              text
              :disabled="member.isPending"
              :aria-label="`Put back ${member.email.typed}`"
              @click="changes.putBack(member)"
              >Put back</ElButton
            >
            <ElButton
              v-else
              text
              :disabled="member.isPending"
              :aria-label="`Remove ${member.email.typed} from the list`"
              @click="changes.remove(member)"
            >
              <Trash2 :size="16" />
            </ElButton>
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
    <SavePeople
      v-if="saving !== null"
      :list="list"
      :wanted="saving.wanted"
      :count="saving.count"
      @close="saving = null"
    />
    <BulkDialog
      v-if="act !== null"
      :list="list"
      :act="act"
      :wanted="chosen.wanted()"
      :count="chosen.count.value"
      :tags="tags"
      :work="work"
      @close="act = null"
    />
    <EraseDialog
      v-if="isErasing"
      :list="list"
      :wanted="chosen.wanted()"
      :count="chosen.count.value"
      @done="chosen.clear()"
      @close="isErasing = false"
    />
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
.act {
  display: flex;
}
.act .el-button {
  margin: 0;
}
.head {
  min-width: 0;
  padding: 0;
  color: inherit;
  font-size: inherit;
  font-weight: inherit;
}
.head :deep(span) {
  gap: var(--gap-1);
}
.table :deep(.el-table-v2__header-cell) {
  position: relative;
}
.handle {
  position: absolute;
  inset-block: 0;
  inset-inline-end: 0;
  width: 10px;
  border-inline-end: 2px solid transparent;
  cursor: col-resize;
  touch-action: none;
}
.handle:hover {
  border-color: var(--moss);
}
</style>

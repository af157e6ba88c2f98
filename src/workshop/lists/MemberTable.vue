<script setup lang="ts">
import type { CameFrom } from '#core/journal'
import { Download, Pencil, Trash2 } from '@lucide/vue'
import { useElementSize, useWindowSize } from '@vueuse/core'
import { type Column, ElButton, ElEmpty, ElInput, ElSkeleton, ElTableV2 } from 'element-plus'
import { computed, ref, useTemplateRef, watch } from 'vue'
import { RouterLink } from 'vue-router'
import { columnsOf, memberStatuses, type List, type MemberStatus, valueOf, type Wanted } from '#core/list'
import type { FormId } from '#core/ids'
import { spotKinds, spotName } from '#core/spot'
import { type QueuedCommand, queuedCommands, useLive, useWorkspace } from '../data'
import { isBlank, useFound } from './found'
import { useMemberChanges } from './member-changes'
import { type ShownMember, useMembers } from './members'
import { vHint } from '../controls/hint'
import Select from '../controls/Select.vue'
import MemberEditor from './MemberEditor.vue'
import SavePeople from './SavePeople.vue'
import { statusNames } from './status'
import { shownMoment, shownPage } from '../controls/shown'

/** The people on a list, newest first; those of one form alone where `form` says so. */
const { list, form } = defineProps<{ list: List; form?: FormId }>()

const ROW_PX = 40
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
const status = ref<MemberStatus | 'all' | ''>('all')
/** Chosen here and not in the table's head, which the Tab key reaches after all of its rows. */
const order = ref<'newest' | 'oldest' | ''>('newest')
const orders = [
  { value: 'newest' as const, label: 'Newest first' },
  { value: 'oldest' as const, label: 'Oldest first' },
]
const isOldestFirst = computed(() => order.value === 'oldest')
const edited = ref<ShownMember | null>(null)
const isSaving = ref(false)

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
  search: search.value,
  spots: spotsWith(search.value.trim().toLowerCase()),
  sort: { by: 'since', isDescending: !isOldestFirst.value },
})
const { rows: found, isWhole, isEmpty, see } = useFound(wanted, queued)
const hasTags = ref(false)
watch(found, (rows) => (hasTags.value ||= rows?.slice(0, 500).some(({ tags = [] }) => tags.length > 0) ?? false))
/** Null until it is known; of a whole list from the last time, until everybody is here. */
const count = computed(() => {
  if (isWhole.value) return found.value?.length ?? null
  const counts = form === undefined && search.value.trim() === '' ? members.countsOf(list.id) : null
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
const columns = computed((): Column<ShownMember>[] => {
  const all = [
    { key: 'email', title: 'Email', width: 230 },
    ...columnsOf(list)
      .slice(1)
      .map(({ key, label }) => ({ key: `column ${key}`, title: label, width: 130 })),
    ...(hasTags.value ? [{ key: 'tags', title: 'Tags', width: 130 }] : []),
    { key: 'status', title: 'Status', width: 110 },
    { key: 'since', title: 'Since', width: 130 },
    { key: 'spot', title: 'Spot', width: 210 },
    { key: 'page', title: 'Page', width: 150 },
    { key: 'act', title: 'Change', width: 150 },
  ]
  const spare = Math.max(0, room.value - 2 - all.reduce((sum, { width }) => sum + width, 0))
  // What there is of spare room goes to what is cut off first.
  const flexible = ['email', 'spot', 'page']
  return all.map((column) =>
    flexible.includes(column.key) ? { ...column, width: column.width + spare / flexible.length } : column,
  )
})
const sortOfHead = ({ columns: heads, headerIndex }: { columns: Column[]; headerIndex: number }) =>
  heads[headerIndex]?.key === 'since' ? { 'aria-sort': isOldestFirst.value ? 'ascending' : 'descending' } : {}

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
  if (member.from === null) return 'added by hand'
  const spot = workspace.spot(member.from.spot)
  const site = spot && workspace.site(spot.site)
  const kind = spotKinds.find((one) => one.kind === spot?.kind)?.name.toLowerCase() ?? 'spot'
  return [...told(member.from.cameFrom), kind, site?.name ?? 'a deleted site'].join(' · ')
}

/** What the spot or the campaign is called, by which owners tell places apart: it stands first, where nothing cuts it off. */
function told(from: CameFrom | undefined): string[] {
  return [from?.source, from?.campaign].flatMap((words) => (words ? [words] : []))
}
</script>

<template>
  <div class="members">
    <div class="row tools">
      <ElInput
        v-model="search"
        class="search"
        type="search"
        placeholder="Find an address, a name, a spot"
        aria-label="Find an address, a name, a spot or a page"
        clearable
      />
      <Select v-model="status" class="menu" label="Status" :options="statuses" />
      <Select v-model="order" class="menu" label="Order" :options="orders" />
      <span class="quiet small" role="status">{{
        count === null ? '' : count === 1 ? '1 person' : `${count} people`
      }}</span>
      <ElButton v-if="count !== null && count > 0" @click="isSaving = true"
        ><Download :size="16" /><span>Save as a file</span></ElButton
      >
      <slot />
    </div>
    <ElEmpty
      v-if="isEmpty"
      class="sheet"
      :description="search === '' && status === 'all' ? nobody : 'Nobody matches.'"
    />
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
          <span v-else class="words">{{ column.title }}</span>
        </template>
        <template #cell="{ column, rowData: member }">
          <span v-if="isBlank(member)" class="words" />
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
      v-if="isSaving && count !== null"
      :list="list"
      :wanted="wanted()"
      :count="count"
      @close="isSaving = false"
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
  margin-inline-start: auto;
}
</style>

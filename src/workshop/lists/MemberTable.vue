<script setup lang="ts">
import { Pencil, Trash2 } from '@lucide/vue'
import { ElButton, ElInput } from 'element-plus'
import { computed, ref, watch } from 'vue'
import { columnsOf, memberStatuses, type List, type Member, type MemberStatus, valueOf } from '#core/list'
import type { FormId, MemberId } from '#core/ids'
import type { Command } from '#core/journal'
import { spotKinds } from '#core/spot'
import { queueCommand, type QueuedCommand, queuedCommands, takeBackRemoval, useLive } from '../data'
import { useNotices } from '../shell/notices'
import { countsOf, newestMembers, type ShownMember, useMembers } from './members'
import { useWorkspace } from '../data/workspace'
import MemberEditor from './MemberEditor.vue'
import { shownMoment, shownPage } from '../controls/shown'

/** The people on a list, newest first; those of one form alone where `form` says so. */
const { list, form } = defineProps<{ list: List; form?: FormId }>()

const STEP = 50
const workspace = useWorkspace()
const notices = useNotices()
const members = useMembers()
void members.load()
const queued = useLive(
  async () => (await queuedCommands()).filter(({ command }) => command.list === list.id),
  [] as QueuedCommand[],
  [() => list.id],
)
/** What is shown until everybody is here. */
const first = useLive(
  () => (form === undefined ? newestMembers(list.id, STEP) : Promise.resolve(null)),
  null as Member[] | null,
  [() => list.id],
)
const counts = useLive(() => countsOf(list.id), null as Awaited<ReturnType<typeof countsOf>> | null, [() => list.id])
const search = ref('')
const status = ref<MemberStatus | 'all'>('all')
const isOldestFirst = ref(false)
const shownCount = ref(STEP)
const edited = ref<ShownMember | null>(null)
watch([search, status, () => list.id], () => (shownCount.value = STEP))

const statusNames: Record<MemberStatus, string> = {
  waiting: 'waiting',
  confirmed: 'on the list',
  left: 'left',
  removed: 'removed',
  bounced: 'bounced',
}
const columns = computed(() => columnsOf(list).slice(1))
const hasTags = computed(() => shown.value.some(({ tags }) => tags !== undefined && tags.length > 0))
const isWhole = computed(() => search.value.trim() === '' && status.value === 'all' && form === undefined)
const found = computed((): Member[] | null => {
  if (!members.isReady) return isWhole.value && !isOldestFirst.value ? first.value : null
  return members.find(
    {
      list: list.id,
      form,
      status: status.value === 'all' ? undefined : status.value,
      search: search.value,
      isOldestFirst: isOldestFirst.value,
    },
    queued.value,
  )
})
/** How many were found; everybody is counted before everybody is here. */
const count = computed(() =>
  members.isReady
    ? (found.value?.length ?? null)
    : isWhole.value && counts.value !== null
      ? Object.values(counts.value).reduce((sum, one) => sum + one, 0)
      : null,
)
const shown = computed(() =>
  (found.value ?? []).slice(0, shownCount.value).map((member): ShownMember => ({ isPending: false, ...member })),
)

function whereFrom(member: ShownMember): string {
  if (member.from === null) return 'added by hand'
  const spot = workspace.spot(member.from.spot)
  const site = spot && workspace.site(spot.site)
  return `${site?.name ?? 'a deleted site'}, ${spotKinds.find(({ kind }) => kind === spot?.kind)?.name.toLowerCase() ?? 'spot'}`
}

async function remove({ id, revision, status: before, email }: ShownMember): Promise<void> {
  const removal = await queueCommand({ kind: 'remove-member', list: list.id, member: id, revision })
  notices.done(`${email.typed} is removed from the list.`, () => keep(id, removal, before))
}

async function keep(id: MemberId, removal: Command['id'], before: MemberStatus): Promise<void> {
  if (before !== 'removed') await takeBackRemoval(removal, id, before)
}

async function restore(member: ShownMember): Promise<void> {
  await queueCommand({
    kind: 'restore-member',
    list: list.id,
    member: member.id,
    revision: member.revision,
    status: 'confirmed',
  })
}
</script>

<template>
  <div class="members">
    <div class="row tools">
      <ElInput
        v-model="search"
        class="search"
        type="search"
        placeholder="Find an address or a name"
        aria-label="Find an address or a name"
        clearable
      />
      <label class="row">
        <span class="only-heard">Status</span>
        <select v-model="status" class="plain-select">
          <option value="all">Everyone</option>
          <option v-for="one in memberStatuses" :key="one" :value="one">{{ statusNames[one] }}</option>
        </select>
      </label>
      <span class="quiet small" role="status">{{
        count === null ? '' : count === 1 ? '1 person' : `${count} people`
      }}</span>
      <slot />
    </div>
    <p v-if="count === 0 && search === '' && status === 'all'" class="sheet empty">
      Nobody is on this list yet. Put a form’s code on a page and sign up yourself: you appear here at once.
    </p>
    <p v-else-if="count === 0" class="sheet empty">Nobody matches.</p>
    <div v-else class="scroll sheet">
      <table class="plain-table">
        <thead>
          <tr>
            <th scope="col">Email</th>
            <th v-for="column in columns" :key="column.key" scope="col">{{ column.label }}</th>
            <th v-if="hasTags" scope="col">Tags</th>
            <th scope="col">Status</th>
            <th scope="col" :aria-sort="isOldestFirst ? 'ascending' : 'descending'">
              <button type="button" @click="isOldestFirst = !isOldestFirst">
                Since {{ isOldestFirst ? '↑' : '↓' }}
              </button>
            </th>
            <th scope="col">Spot</th>
            <th scope="col">Page</th>
            <th scope="col"><span class="only-heard">Change</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="member in shown" :key="member.id" :class="{ pending: member.isPending }">
            <td class="email">{{ member.email.typed }}</td>
            <td v-for="column in columns" :key="column.key">{{ valueOf(member, column.key) }}</td>
            <td v-if="hasTags">{{ member.tags?.join(', ') }}</td>
            <td class="status" :class="member.status">
              {{ statusNames[member.status] }}<template v-if="member.isPending">, being sent</template>
            </td>
            <td class="moment">{{ shownMoment(member.joinedAt) }}</td>
            <td>{{ whereFrom(member) }}</td>
            <td class="page-cell" :title="member.from?.page">
              {{ member.from?.page ? shownPage(member.from.page) : '' }}
            </td>
            <td class="act">
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
                @click="keep(member.id, member.removal.command, member.removal.before)"
                >Take back</ElButton
              >
              <ElButton
                v-else-if="member.status === 'removed'"
                text
                :disabled="member.isPending"
                :aria-label="`Put back ${member.email.typed}`"
                @click="restore(member)"
                >Put back</ElButton
              >
              <ElButton
                v-else
                text
                :disabled="member.isPending"
                :aria-label="`Remove ${member.email.typed} from the list`"
                @click="remove(member)"
              >
                <Trash2 :size="16" />
              </ElButton>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <div v-if="count !== null && count > shownCount">
      <ElButton @click="shownCount += STEP">Show {{ Math.min(STEP, count - shownCount) }} more</ElButton>
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
.scroll {
  overflow-x: auto;
}
.empty {
  padding: var(--gap-6);
  text-align: center;
}
th button {
  padding: 0;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  cursor: pointer;
}
.email {
  min-width: 190px;
  max-width: 300px;
  overflow-wrap: anywhere;
}
.moment {
  white-space: nowrap;
}
.page-cell {
  max-width: 260px;
  overflow: hidden;
  color: var(--quiet);
  text-overflow: ellipsis;
  white-space: nowrap;
}
.status.confirmed {
  color: var(--moss);
}
.status.removed,
.status.left,
.status.bounced {
  color: var(--quiet);
}
.pending {
  font-style: italic;
}
.act {
  font-style: normal;
  white-space: nowrap;
  text-align: end;
}
.act :deep(.el-button) {
  height: 28px;
}
td.act {
  padding-block: 4px;
}
</style>

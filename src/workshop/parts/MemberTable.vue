<script setup lang="ts">
import { Pencil, Trash2 } from '@lucide/vue'
import { ElButton, ElInput } from 'element-plus'
import { computed, ref, watch } from 'vue'
import { columnsOf, memberStatuses, type List, type MemberStatus, valueOf } from '#core/list'
import type { FormId, MemberId } from '#core/ids'
import type { Command } from '#core/journal'
import { spotKinds } from '#core/spot'
import { queueCommand, takeBackRemoval, useLive } from '../db'
import { useNotices } from '../stores/notices'
import { membersOf, type ShownMember } from '../stores/people'
import { useWorkspace } from '../stores/workspace'
import MemberEditor from './MemberEditor.vue'
import { shownMoment, shownPage } from './moments'

/** The people on a list, newest first; those of one form alone where `form` says so. */
const { list, form } = defineProps<{ list: List; form?: FormId }>()

const STEP = 50
const workspace = useWorkspace()
const notices = useNotices()
const members = useLive(() => membersOf(list.id), null as ShownMember[] | null, [() => list.id])
const search = ref('')
const status = ref<MemberStatus | 'all'>('all')
const isOldestFirst = ref(false)
const shownCount = ref(STEP)
const edited = ref<ShownMember | null>(null)
watch([search, status, () => list.id], () => (shownCount.value = STEP))

const statusNames: Record<MemberStatus, string> = { waiting: 'waiting', confirmed: 'on the list', left: 'left', removed: 'removed', bounced: 'bounced' }
const columns = computed(() => columnsOf(list).slice(1))
const hasTags = computed(() => (members.value ?? []).some(({ tags }) => tags !== undefined && tags.length > 0))
const found = computed(() => {
  const wanted = search.value.trim().toLowerCase()
  const all = (members.value ?? []).filter(
    (member) =>
      (form === undefined || member.from?.form === form) &&
      (status.value === 'all' || member.status === status.value) &&
      (wanted === '' || [member.email.typed, member.email.compared, ...Object.values(member.values), ...(member.tags ?? [])].some((text) => text.toLowerCase().includes(wanted))),
  )
  return isOldestFirst.value ? all.reverse() : all
})

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
  await queueCommand({ kind: 'restore-member', list: list.id, member: member.id, revision: member.revision, status: 'confirmed' })
}
</script>

<template>
  <div class="members">
    <div class="row tools">
      <ElInput v-model="search" class="search" type="search" placeholder="Find an address or a name" aria-label="Find an address or a name" clearable />
      <label class="row">
        <span class="only-heard">Status</span>
        <select v-model="status" class="plain-select">
          <option value="all">Everyone</option>
          <option v-for="one in memberStatuses" :key="one" :value="one">{{ statusNames[one] }}</option>
        </select>
      </label>
      <span class="quiet small" role="status">{{ found.length }} {{ found.length === 1 ? 'person' : 'people' }}</span>
      <slot />
    </div>
    <p v-if="members !== null && members.length === 0" class="sheet empty">
      Nobody is on this list yet. Put a form’s code on a page and sign up yourself: you appear here at once.
    </p>
    <p v-else-if="members !== null && found.length === 0" class="sheet empty">Nobody matches.</p>
    <div v-else class="scroll sheet">
      <table class="plain-table">
        <thead>
          <tr>
            <th scope="col">Email</th>
            <th v-for="column in columns" :key="column.key" scope="col">{{ column.label }}</th>
            <th v-if="hasTags" scope="col">Tags</th>
            <th scope="col">Status</th>
            <th scope="col" :aria-sort="isOldestFirst ? 'ascending' : 'descending'">
              <button type="button" @click="isOldestFirst = !isOldestFirst">Since {{ isOldestFirst ? '↑' : '↓' }}</button>
            </th>
            <th scope="col">Spot</th>
            <th scope="col">Page</th>
            <th scope="col"><span class="only-heard">Change</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="member in found.slice(0, shownCount)" :key="member.id" :class="{ pending: member.isPending }">
            <td class="email">{{ member.email.typed }}</td>
            <td v-for="column in columns" :key="column.key">{{ valueOf(member, column.key) }}</td>
            <td v-if="hasTags">{{ member.tags?.join(', ') }}</td>
            <td class="status" :class="member.status">{{ statusNames[member.status] }}<template v-if="member.isPending">, being sent</template></td>
            <td class="moment">{{ shownMoment(member.joinedAt) }}</td>
            <td>{{ whereFrom(member) }}</td>
            <td class="page-cell" :title="member.from?.page">{{ member.from?.page ? shownPage(member.from.page) : '' }}</td>
            <td class="act">
              <ElButton text :disabled="member.isPending" :aria-label="`Change ${member.email.typed}`" @click="edited = member"><Pencil :size="16" /></ElButton>
              <ElButton v-if="member.removal" text :aria-label="`Take back the removal of ${member.email.typed}`" @click="keep(member.id, member.removal.command, member.removal.before)">Take back</ElButton>
              <ElButton v-else-if="member.status === 'removed'" text :disabled="member.isPending" :aria-label="`Put back ${member.email.typed}`" @click="restore(member)">Put back</ElButton>
              <ElButton v-else text :disabled="member.isPending" :aria-label="`Remove ${member.email.typed} from the list`" @click="remove(member)">
                <Trash2 :size="16" />
              </ElButton>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <div v-if="found.length > shownCount">
      <ElButton @click="shownCount += STEP">Show {{ Math.min(STEP, found.length - shownCount) }} more</ElButton>
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

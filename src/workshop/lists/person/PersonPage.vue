<script setup lang="ts">
import { Download, Eraser, ReceiptText } from '@lucide/vue'
import { ElButton, ElInput, ElSkeleton } from 'element-plus'
import { computed, ref, shallowRef } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import type { ListId, MemberId } from '#core/ids'
import type { List, Member } from '#core/list'
import { MAX_TEXT_LENGTH } from '#core/text'
import Changes from '../../controls/Changes.vue'
import Labelled from '../../controls/Labelled.vue'
import { handToDownloads, shownMoment } from '../../controls'
import { useWorkspace } from '../../data'
import Nowhere from '../../Nowhere.vue'
import { useTitle } from '../../title'
import { type SettledPeople, useBatchChanges } from '../batch-changes'
import EraseDialog from '../EraseDialog.vue'
import { useLongWork } from '../long-work'
import { useMemberChanges } from '../member-changes'
import { usePerson } from './person'
import { useHeld } from './held'
import HandedOn from './HandedOn.vue'
import PersonFacts from './PersonFacts.vue'
import RefusedChanges from '../RefusedChanges.vue'
import { statusNames } from '../status'
import Page from '../../controls/Page.vue'

/** One person on one list: what is kept, and all that happened, each with where from and in whose words. */
const props = defineProps<{ id: string; member: string }>()
const workspace = useWorkspace()
const changes = useMemberChanges()
const list = computed(() => workspace.list(props.id as ListId))
const router = useRouter()
/** Who is being erased: told to the end though they are not there any more. */
const erased = shallowRef<{ list: List; member: Member; chosen: SettledPeople } | null>(null)
const batches = useBatchChanges(useLongWork())
async function erase(list: List, member: Member): Promise<void> {
  const chosen = await batches.settle({ list: list.id, only: [member.id] })
  if (chosen !== null) erased.value = { list, member, chosen }
}
const { person, isKnown, events, mails, letters } = usePerson(
  () => props.id as ListId,
  () => props.member as MemberId,
)
useTitle(() => person.value?.member.email.typed ?? null)

const held = useHeld()
async function saveAll(): Promise<void> {
  const all = await held.of(person.value!, mails.value, letters.value)
  handToDownloads({
    blob: new Blob([`${JSON.stringify(all, null, 2)}\n`], { type: 'application/json' }),
    name: `All that is held about ${person.value!.member.email.typed}.json`,
  })
}

const note = ref('')
async function addNote(): Promise<void> {
  await changes.addNote(person.value!.member, note.value.trim())
  note.value = ''
}
</script>

<template>
  <EraseDialog
    v-if="erased"
    :list="erased.list"
    :chosen="erased.chosen"
    :who="erased.member.email.typed"
    @close="erased = null"
    @done="router.push({ name: 'list', params: { id: erased.list.id } })"
  />
  <ElSkeleton v-if="!isKnown" class="page" :rows="8" animated />
  <template v-else-if="erased && person === null" />
  <Nowhere v-else-if="list === null || person === null" />
  <Page v-else class="whole" :title="person.member.email.typed">
    <template #above
      ><RouterLink :to="{ name: 'list', params: { id: list.id } }">{{ list.name }}</RouterLink></template
    >
    <template #below
      ><p class="quiet">
        {{ statusNames[person.member.status] }}, since {{ shownMoment(person.member.joinedAt)
        }}<template v-if="person.member.isPending">; a change is being sent</template>
      </p></template
    >
    <template #actions>
      <span class="row">
        <RouterLink
          v-slot="{ navigate }"
          custom
          :to="{ name: 'receipts', params: { id: list.id, member: person.member.id } }"
        >
          <ElButton @click="navigate()"><ReceiptText :size="16" /><span>Receipts</span></ElButton>
        </RouterLink>
        <ElButton @click="saveAll"><Download :size="16" /><span>Save all that is held</span></ElButton>
        <Changes>
          <ElButton :disabled="person.member.isPending || undefined" @click="erase(list, person.member)"
            ><Eraser :size="16" /><span>Erase</span></ElButton
          >
          <ElButton v-if="person.member.removal" @click="changes.takeBack(person.member)">Take back</ElButton>
          <ElButton
            v-else-if="person.member.status === 'removed'"
            :disabled="person.member.isPending || undefined"
            @click="changes.putBack(person.member)"
            >Put back on the list</ElButton
          >
          <ElButton v-else :disabled="person.member.isPending || undefined" @click="changes.remove(person.member)"
            >Take off the list</ElButton
          >
        </Changes>
      </span>
    </template>
    <RefusedChanges :list="list.id" :member="person.member.id" />
    <div class="halves">
      <section aria-labelledby="kept-title">
        <h2 id="kept-title">What is kept</h2>
        <Changes>
          <PersonFacts :key="person.member.id" :list="list" :member="person.member" />
        </Changes>
        <HandedOn :member="person.member" />
        <template v-if="person.elsewhere.length > 0">
          <h2>Also on</h2>
          <ul class="elsewhere">
            <li v-for="one in person.elsewhere" :key="one.id">
              <RouterLink :to="{ name: 'person', params: { id: one.list, member: one.id } }">{{
                workspace.list(one.list)?.name ?? 'a list that is gone'
              }}</RouterLink>
              <span class="quiet small">{{ statusNames[one.status] }}</span>
            </li>
          </ul>
        </template>
      </section>
      <section aria-labelledby="timeline-title">
        <h2 id="timeline-title">What happened</h2>
        <Changes>
          <form novalidate class="note" @submit.prevent="addNote">
            <Labelled label="Write something down about them">
              <ElInput
                v-model="note"
                type="textarea"
                :autosize="{ minRows: 1, maxRows: 8 }"
                :maxlength="MAX_TEXT_LENGTH"
              />
            </Labelled>
            <ElButton native-type="submit" :disabled="note.trim() === '' || undefined">Add the note</ElButton>
          </form>
        </Changes>
        <ol class="timeline">
          <li v-for="event in events" :key="event.key" :class="event.by">
            <p>
              <span class="what">{{ event.what }}</span>
              <time class="quiet small" :datetime="event.at">{{ shownMoment(event.at) }}</time>
              <span v-if="event.isWaiting" class="quiet small">being sent</span>
            </p>
            <p v-for="(line, at) in event.details" :key="at" class="detail small">{{ line }}</p>
          </li>
        </ol>
      </section>
    </div>
  </Page>
</template>

<style scoped>
.whole {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-4);
}
p {
  margin: 0;
  overflow-wrap: anywhere;
}
h2 {
  margin: 0 0 var(--gap-3);
  font-size: var(--text-l);
}
.halves {
  display: grid;
  grid-template-columns: minmax(260px, 1fr) minmax(0, 2fr);
  gap: var(--gap-6);
  align-items: start;
}
.elsewhere {
  display: grid;
  gap: var(--gap-2);
  margin: 0 0 var(--gap-4);
  padding: 0;
  list-style: none;
}
.elsewhere li {
  display: flex;
  gap: var(--gap-3);
  align-items: baseline;
}
.note {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: var(--gap-3);
  align-items: end;
  margin-block-end: var(--gap-5);
}
.note :deep(.el-form-item) {
  margin: 0;
}
.timeline {
  display: grid;
  gap: var(--gap-4);
  margin: 0;
  padding: 0;
  list-style: none;
}
/* One line, with a stop for each thing: the owner's are hollow, the person's full. */
.timeline li {
  position: relative;
  padding-inline-start: var(--gap-5);
}
.timeline li::before {
  content: '';
  position: absolute;
  inset-block: 0.35em auto;
  inset-inline-start: 0;
  box-sizing: border-box;
  width: 12px;
  height: 12px;
  border: 2px solid var(--moss);
  border-radius: 50%;
}
.timeline li.person::before {
  background: var(--moss);
}
.timeline li.itself::before {
  border-color: var(--edge);
}
.timeline li::after {
  content: '';
  position: absolute;
  inset-block: calc(0.35em + 12px) calc(-1 * var(--gap-4) - 0.35em);
  inset-inline-start: 5px;
  border-inline-start: 2px solid var(--edge);
}
.timeline li:last-child::after {
  content: none;
}
.timeline p:first-child {
  display: flex;
  flex-wrap: wrap;
  gap: 0 var(--gap-3);
  align-items: baseline;
}
.what {
  font-weight: 600;
}
.detail {
  white-space: pre-line;
}
@media (max-width: 900px) {
  .halves {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>

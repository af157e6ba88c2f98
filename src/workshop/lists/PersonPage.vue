<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core'
import { ElButton, ElInput, ElSkeleton } from 'element-plus'
import { computed, ref, shallowRef, watch } from 'vue'
import { RouterLink } from 'vue-router'
import type { MailOnList } from '#core/api'
import type { ListId, MemberId } from '#core/ids'
import { spotName } from '#core/spot'
import { clientFor } from '../client'
import Labelled from '../controls/Labelled.vue'
import { shownMoment } from '../controls/shown'
import { queueCommand, type QueuedCommand, queuedCommands, takeBackRemoval, useLive, useWorkspace } from '../data'
import Nowhere from '../Nowhere.vue'
import { useNotices } from '../notices'
import { useReceiver } from '../sync'
import { useTitle } from '../title'
import { type Person, useMembers } from './members'
import PersonFacts from './PersonFacts.vue'
import { statusNames } from './status'
import { storyOf } from './story'

/** One person on one list: what is kept, and all that happened, each with where from and in whose words. */
const props = defineProps<{ id: string; member: string }>()
const workspace = useWorkspace()
const members = useMembers()
const notices = useNotices()
const receiver = useReceiver()
const list = computed(() => workspace.list(props.id as ListId))
const queued = useLive(
  async () => (await queuedCommands()).filter(({ command }) => command.member === props.member),
  [] as QueuedCommand[],
  [() => props.member],
)
const person = shallowRef<Person | null>(null)
const isKnown = ref(false)
const mails = shallowRef<MailOnList[]>([])
useTitle(() => person.value?.member.email.typed ?? null)

watch(
  [() => props.id, () => props.member, () => members.changes, queued],
  async () => {
    person.value = await members.person(props.id as ListId, props.member as MemberId, queued.value)
    isKnown.value = true
  },
  { immediate: true },
)
/** Mail is known to the receiver alone; while it is away, the rest is told. */
async function lookAtMails(): Promise<void> {
  if (receiver.pairing === null) return
  const answer = await clientFor(receiver.pairing)
    .mailsToMember(props.member)
    .catch(() => null)
  if (answer !== null) mails.value = answer.mails
}
watch([() => props.member, () => receiver.pairing, person], lookAtMails, { immediate: true })
useIntervalFn(() => void lookAtMails(), 3_000)
const events = computed(() => {
  if (person.value === null || list.value === null) return []
  return storyOf(person.value.entries, mails.value, {
    list: list.value,
    form: (id) => workspace.form(id)?.name ?? 'a form that is gone',
    spot: (id) => {
      const spot = workspace.spot(id)
      return spot === null ? 'a place that is gone' : spotName(spot, workspace.sites)
    },
  })
})
const isOff = computed(() => person.value?.member.status === 'removed')

async function remove(): Promise<void> {
  const { id, revision, status, email } = person.value!.member
  const removal = await queueCommand({ kind: 'remove-member', list: props.id as ListId, member: id, revision })
  notices.done(
    `${email.typed} is taken off the list.`,
    () => void (status !== 'removed' && takeBackRemoval(removal, id, status)),
  )
}
async function putBack(): Promise<void> {
  const { id, revision, email } = person.value!.member
  await queueCommand({
    kind: 'restore-member',
    list: props.id as ListId,
    member: id,
    revision,
    status: 'confirmed',
  })
  notices.done(`${email.typed} is back on the list.`)
}

const note = ref('')
async function addNote(): Promise<void> {
  const text = note.value.trim()
  if (text === '') return
  await queueCommand({ kind: 'note-member', list: props.id as ListId, member: props.member as MemberId, text })
  note.value = ''
  notices.done('Noted.')
}
</script>

<template>
  <ElSkeleton v-if="!isKnown" class="page" :rows="8" animated />
  <Nowhere v-else-if="list === null || person === null" />
  <div v-else class="page whole">
    <div class="page-head">
      <div>
        <p class="small">
          <RouterLink :to="{ name: 'list', params: { id: list.id } }">{{ list.name }}</RouterLink>
        </p>
        <h1>{{ person.member.email.typed }}</h1>
        <p class="quiet">
          {{ statusNames[person.member.status] }}, since {{ shownMoment(person.member.joinedAt)
          }}<template v-if="person.member.isPending">; a change is being sent</template>
        </p>
      </div>
      <span class="row">
        <ElButton v-if="isOff" :disabled="person.member.isPending" @click="putBack">Put back on the list</ElButton>
        <ElButton v-else :disabled="person.member.isPending" @click="remove">Take off the list</ElButton>
      </span>
    </div>
    <div class="halves">
      <section aria-labelledby="kept-title">
        <h2 id="kept-title">What is kept</h2>
        <PersonFacts :list="list" :member="person.member" />
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
      <section aria-labelledby="story-title">
        <h2 id="story-title">What happened</h2>
        <form class="note" @submit.prevent="addNote">
          <Labelled label="Write something down about them">
            <ElInput v-model="note" type="textarea" :autosize="{ minRows: 1, maxRows: 8 }" :maxlength="20_000" />
          </Labelled>
          <ElButton native-type="submit" :disabled="note.trim() === ''">Add the note</ElButton>
        </form>
        <ol class="story">
          <li v-for="event in events" :key="event.key" :class="event.by">
            <p>
              <span class="what">{{ event.what }}</span>
              <time class="quiet small" :datetime="event.at">{{ shownMoment(event.at) }}</time>
            </p>
            <p v-for="(line, at) in event.details" :key="at" class="detail small">{{ line }}</p>
          </li>
        </ol>
      </section>
    </div>
  </div>
</template>

<style scoped>
.whole {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-4);
}
.page-head {
  margin: 0;
}
h1,
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
.story {
  display: grid;
  gap: var(--gap-4);
  margin: 0;
  padding: 0;
  list-style: none;
}
/* One line, with a stop for each thing: the owner's are hollow, the person's full. */
.story li {
  position: relative;
  padding-inline-start: var(--gap-5);
}
.story li::before {
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
.story li.person::before {
  background: var(--moss);
}
.story li.itself::before {
  border-color: var(--edge);
}
.story li::after {
  content: '';
  position: absolute;
  inset-block: calc(0.35em + 12px) calc(-1 * var(--gap-4) - 0.35em);
  inset-inline-start: 5px;
  border-inline-start: 2px solid var(--edge);
}
.story li:last-child::after {
  content: none;
}
.story p:first-child {
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

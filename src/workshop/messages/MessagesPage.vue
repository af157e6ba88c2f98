<script setup lang="ts">
import { ElButton, ElCollapse, ElEmpty, ElSkeleton } from 'element-plus'
import { computed, ref, shallowRef } from 'vue'
import { RouterLink, useRoute, useRouter } from 'vue-router'
import { messagesFile } from '#core/export'
import { messagesOf, takesMessages } from '#core/form'
import type { ArrivalId, FormId } from '#core/ids'
import { hasSender } from '#core/mail'
import { clientFor, type Client } from '../client'
import { now } from '../clock'
import { handToDownloads } from '../controls'
import Changes from '../controls/Changes.vue'
import FindBox from '../controls/FindBox.vue'
import Page from '../controls/Page.vue'
import Views from '../controls/Views.vue'
import { database, type KeptMessage, useLive, useWorkspace } from '../data'
import { useNotices } from '../notices'
import Nowhere from '../Nowhere.vue'
import { useReceiver } from '../sync'
import { useTitle } from '../title'
import EraseMessages from './EraseMessages.vue'
import { foundMessages } from './found'
import MessageRow from './MessageRow.vue'

/** What visitors wrote to the owner by one form: newest first, found, answered, saved, let through and erased. */
const props = defineProps<{ id: string }>()
/** More are shown by a press. */
const SHOWN = 40

const workspace = useWorkspace()
const receiver = useReceiver()
const notices = useNotices()
const route = useRoute()
const router = useRouter()
const id = computed(() => props.id as FormId)
const form = computed(() => workspace.form(id.value))
useTitle(() => (form.value === null ? null : `Messages of ${form.value.name}`))
const listName = computed(() => (form.value === null ? '' : (workspace.list(form.value.list)?.name ?? '')))
const settings = computed(() => messagesOf(workspace.latestVersion(id.value)?.content ?? {}))
/** Whether mail goes out to the owner. */
const isMailed = computed(
  () =>
    form.value !== null && hasSender(workspace.mail(form.value.list)?.published ?? null) && settings.value.to !== '',
)
const isAsked = computed(() => form.value !== null && takesMessages(form.value.draft))

const all = useLive(() => database.messages.where('form').equals(id.value).toArray(), null as KeptMessage[] | null, [
  id,
])
const view = computed<'arrived' | 'held'>({
  get: () => (route.query.view === 'held' ? 'held' : 'arrived'),
  set: (to) => void router.replace({ query: to === 'held' ? { view: 'held' } : {} }),
})
const ofView = (held: 0 | 1) => (all.value ?? []).filter((kept) => kept.held === held)
const views = computed(() => [
  { value: 'arrived' as const, label: `Arrived (${ofView(0).length})` },
  { value: 'held' as const, label: `Held back (${ofView(1).length})` },
])
const words = ref('')
const inView = computed(() => ofView(view.value === 'held' ? 1 : 0))
const found = computed(() => foundMessages(inView.value, words.value))
const most = ref(SHOWN)
const shown = computed(() => found.value.slice(0, most.value))
const open = ref<string[]>([])

const isBusy = ref(false)
async function ask(what: (client: Client) => Promise<{ count: number }>, done: string): Promise<void> {
  if (receiver.pairing === null) return
  isBusy.value = true
  try {
    await what(clientFor({ ...receiver.pairing }))
    notices.done(done)
  } catch (error) {
    notices.problem(error instanceof Error ? error.message : String(error))
  } finally {
    isBusy.value = false
  }
}
const release = (kept: KeptMessage) =>
  ask(
    (client) => client.releaseMessages([kept.id]),
    isMailed.value
      ? 'Let through: it goes to your inbox, and stands among those that arrived.'
      : 'Let through: it stands among those that arrived.',
  )
/** Those that the owner was asked about. */
const toErase = shallowRef<readonly KeptMessage[]>([])
async function erase(some: readonly KeptMessage[]): Promise<void> {
  const ids = some.map((kept) => kept.id)
  await ask(
    async (client) => {
      let count = 0
      for (let at = 0; at < ids.length; at += 500)
        count += (await client.eraseMessages(ids.slice(at, at + 500) as ArrivalId[])).count
      return { count }
    },
    `${some.length === 1 ? 'One message was' : `${some.length} messages were`} erased.`,
  )
}

function save(): void {
  const file = messagesFile(found.value.map(({ message }) => message))
  const name = (form.value?.name ?? 'form').replace(/[^\p{L}\p{N} _-]+/gu, '').trim() || 'form'
  handToDownloads({
    blob: new Blob([file], { type: 'text/csv;charset=utf-8' }),
    name: `${name} messages ${now().slice(0, 10)}.csv`,
  })
}
</script>

<template>
  <Nowhere v-if="workspace.isLoaded && form === null" what="form" />
  <Page v-else-if="form" :title="`Messages of “${form.name}”`">
    <template #above
      ><RouterLink :to="{ name: 'form', params: { id: form.id } }">{{ form.name }}</RouterLink></template
    >
    <template #below>
      <p class="quiet">
        <template v-if="isMailed">They go to {{ settings.to }} and are kept</template
        ><template v-else>No mail of them goes to you: the list has no sender. They are kept</template> for
        {{ settings.keepDays }} {{ settings.keepDays === 1 ? 'day' : 'days' }}.
      </p>
    </template>
    <template #actions>
      <ElButton :disabled="found.length === 0" @click="save">Save as a table</ElButton>
    </template>
    <ElSkeleton v-if="all === null" :rows="6" animated />
    <ElEmpty
      v-else-if="all.length === 0"
      class="sheet"
      :description="
        isAsked
          ? 'Nobody has written yet. What visitors write stands here, newest first.'
          : 'This form takes no messages. Add “Message to you” to its fields, and publish.'
      "
    />
    <template v-else>
      <Views v-model="view" label="Messages" :views="views" />
      <FindBox v-model="words" label="Find by words or address" :count="found.length" :of="inView.length">
        <Changes>
          <ElButton
            v-if="view === 'held' && found.length > 1"
            text
            :disabled="isBusy || undefined"
            @click="toErase = found"
            >Erase {{ words.trim() === '' ? 'all of these' : 'those found' }}</ElButton
          >
        </Changes>
      </FindBox>
      <p v-if="view === 'held' && inView.length === 0" class="quiet">Nothing is held back.</p>
      <p v-else-if="inView.length === 0" class="quiet">None arrived. What is held back stands beside.</p>
      <p v-else-if="found.length === 0" class="quiet">None has these words in it.</p>
      <ElCollapse v-else v-model="open" class="sheet rows">
        <MessageRow
          v-for="kept in shown"
          :key="kept.id"
          :kept="kept"
          :form-name="form.name"
          :list-name="listName"
          :is-busy="isBusy"
          @release="release(kept)"
          @erase="toErase = [kept]"
        />
      </ElCollapse>
      <ElButton v-if="found.length > shown.length" class="more" @click="most += SHOWN"
        >Show {{ Math.min(SHOWN, found.length - shown.length) }} more</ElButton
      >
    </template>
    <EraseMessages v-if="toErase.length > 0" :count="toErase.length" @erase="erase(toErase)" @close="toErase = []" />
  </Page>
</template>

<style scoped>
p {
  margin: 0;
}
.rows {
  padding: 0 var(--gap-4);
  border-top: 1px solid var(--hairline);
}
.rows :deep(.el-collapse-item__header) {
  height: auto;
}
.more {
  justify-self: start;
}
</style>

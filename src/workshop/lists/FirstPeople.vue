<script setup lang="ts">
import { FileUp, Plus, UserRound } from '@lucide/vue'
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import type { List } from '#core/list'
import { useWorkspace } from '../data'
import { useNotices } from '../notices'
import { useMemberChanges } from './member-changes'

/** What to do first with a list on which nobody is. */
const { list } = defineProps<{ list: List }>()
const emit = defineEmits<{ add: [] }>()
const workspace = useWorkspace()
const changes = useMemberChanges()
const notices = useNotices()
const router = useRouter()
const forms = computed(() =>
  workspace.forms.filter((one) => one.list === list.id && !one.isArchived && one.draft.direct === undefined),
)
/** Where the owner reads mail, as far as it was said anywhere. */
const own = computed(() => {
  const lists = [list, ...workspace.lists]
  const said = lists.flatMap(({ id }) => {
    const mail = workspace.mail(id)?.published
    return mail ? [mail.notice.address, mail.replyTo, mail.senderAddress] : []
  })
  return said.find((address) => address.trim() !== '') ?? null
})

async function addOwner(): Promise<void> {
  if (own.value === null) return emit('add')
  const wrong = await changes.save(list.id, null, {
    email: own.value,
    values: {},
    consent: 'The owner of the list, added by themselves.',
  })
  if (wrong === null) notices.done(`${own.value} is on the list.`)
  else notices.problem(wrong)
}
</script>

<template>
  <section class="sheet first" aria-labelledby="first-title">
    <h2 id="first-title">Nobody is on this list yet</h2>
    <p v-if="forms.length > 0">
      Put the code of
      <RouterLink :to="{ name: 'form', params: { id: forms[0]!.id } }">“{{ forms[0]!.name }}”</RouterLink> on a page and
      sign up yourself: you appear here at once.
    </p>
    <p v-else>
      No form feeds it yet.
      <RouterLink :to="{ name: 'new-form', query: { list: list.id } }">Make a form for it</RouterLink>
    </p>
    <div class="row">
      <ElButton @click="addOwner"
        ><UserRound :size="16" /><span>{{ own === null ? 'Add yourself' : `Add yourself, ${own}` }}</span></ElButton
      >
      <ElButton @click="router.push({ name: 'import', params: { id: list.id } })"
        ><FileUp :size="16" /><span>Bring in a file, or pasted lines</span></ElButton
      >
      <ElButton @click="emit('add')"><Plus :size="16" /><span>Add somebody</span></ElButton>
    </div>
  </section>
</template>

<style scoped>
.first {
  display: grid;
  gap: var(--gap-3);
  padding: var(--gap-5);
}
</style>

<script setup lang="ts">
import { Archive, Copy, History, MoreHorizontal, Trash2 } from '@lucide/vue'
import { ElButton, ElDropdown, ElDropdownItem, ElDropdownMenu } from 'element-plus'
import { ref, useTemplateRef } from 'vue'
import { useRouter } from 'vue-router'
import type { Form } from '#core/form'
import type { Draft } from './draft'
import { useArchiving } from './archiving'
import { useNotices } from '../notices'
import { useWorkspace } from '../data'
import { useReceiver } from '../sync'
import VersionsDialog from './VersionsDialog.vue'

/** What can be done with a form as a whole. */
const { form, draft } = defineProps<{ form: Form; draft: Draft }>()

const workspace = useWorkspace()
const receiver = useReceiver()
const notices = useNotices()
const router = useRouter()
const more = useTemplateRef('more')
const { takingSignUps, openWords, closeWays } = useArchiving()
const showsVersions = ref(false)

function closeVersions(): void {
  showsVersions.value = false
  // The menu that it was opened from is gone.
  more.value?.ref?.focus()
}

async function duplicate(): Promise<void> {
  await draft.whenKept()
  const made = await workspace.duplicateForm(form.id)
  notices.done('The copy is here, with spots of its own. Nothing of it is published.')
  await router.push({ name: 'form', params: { id: made.id, station: 'form' } })
}

async function archive(): Promise<void> {
  const willBeArchived = !form.isArchived
  await workspace.archiveForm(form.id, willBeArchived)
  const open = willBeArchived ? takingSignUps([form.id]) : []
  notices.done(
    willBeArchived ? `The form is archived: off the Desk${openWords(open)}.` : 'The form is back on the Desk.',
    () => workspace.archiveForm(form.id, !willBeArchived),
    undefined,
    closeWays(open),
  )
  if (willBeArchived) await router.push('/')
}

async function remove(): Promise<void> {
  const { id, name } = form
  const wasPublished = workspace.latestVersion(form.id) !== null
  const bringBack = await workspace.deleteForm(form.id)
  await router.push('/')
  const isTold = !wasPublished || (await receiver.tell('form', id))
  const words = !wasPublished
    ? ''
    : isTold
      ? ', and its code takes no more sign-ups'
      : ' here. Its code still takes sign-ups until Ask Box is reached, which happens by itself'
  notices.done(`“${name}” is deleted${words}. The people in the list stay.`, async () => {
    await bringBack()
    await receiver.tell('form', id)
  })
}
</script>

<template>
  <ElDropdown trigger="click" placement="bottom-end" :show-arrow="false">
    <ElButton ref="more" text class="more" aria-label="More for this form"><MoreHorizontal :size="18" /></ElButton>
    <template #dropdown>
      <ElDropdownMenu>
        <ElDropdownItem :icon="History" @click="showsVersions = true">Published versions</ElDropdownItem>
        <ElDropdownItem :icon="Copy" :disabled="receiver.looksOn" @click="duplicate">Duplicate</ElDropdownItem>
        <ElDropdownItem :icon="Archive" :disabled="receiver.looksOn" @click="archive">{{
          form.isArchived ? 'Put back on the Desk' : 'Archive'
        }}</ElDropdownItem>
        <ElDropdownItem :icon="Trash2" :disabled="receiver.looksOn" @click="remove">Delete</ElDropdownItem>
      </ElDropdownMenu>
    </template>
  </ElDropdown>
  <VersionsDialog v-if="showsVersions" :form="form" :draft="draft" @close="closeVersions" />
</template>

<style scoped>
.more {
  width: 36px;
  padding: 0;
}
</style>

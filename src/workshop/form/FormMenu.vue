<script setup lang="ts">
import { Archive, Copy, History, MoreHorizontal, Trash2 } from '@lucide/vue'
import { ref, useTemplateRef } from 'vue'
import { useRouter } from 'vue-router'
import type { Form } from '#core/form'
import type { Draft } from './draft'
import { useNotices } from '../shell/notices'
import { useWorkspace } from '../data/workspace'
import VersionsDialog from './VersionsDialog.vue'

/** What can be done with a form as a whole. */
const { form, draft } = defineProps<{ form: Form; draft: Draft }>()

const workspace = useWorkspace()
const notices = useNotices()
const router = useRouter()
const menu = useTemplateRef('menu')
const showsVersions = ref(false)

function close(): void {
  if (menu.value) menu.value.open = false
}

async function duplicate(): Promise<void> {
  close()
  const made = await workspace.duplicateForm(form.id)
  notices.done('The copy is here, with spots of its own. Nothing of it is published.')
  await router.push({ name: 'form', params: { id: made.id, station: 'form' } })
}

async function archive(): Promise<void> {
  close()
  const is = !form.isArchived
  await workspace.archiveForm(form.id, is)
  notices.done(
    is ? 'The form is archived: off the Desk, and its code still takes sign-ups.' : 'The form is back on the Desk.',
    () => workspace.archiveForm(form.id, !is),
  )
  if (is) await router.push('/')
}

async function remove(): Promise<void> {
  close()
  const { id, name } = form
  const wasPublished = workspace.latestVersion(form.id) !== null
  const bringBack = await workspace.deleteForm(form.id)
  await router.push('/')
  const isTold = !wasPublished || (await workspace.tellReceiver('form', id))
  const words = !wasPublished
    ? ''
    : isTold
      ? ', and its code takes no more sign-ups'
      : ' here. Its code still takes sign-ups until the receiver answers and is told, which happens by itself'
  notices.done(`“${name}” is deleted${words}. The people in the list stay.`, async () => {
    await bringBack()
    await workspace.tellReceiver('form', id)
  })
}
</script>

<template>
  <details
    ref="menu"
    class="menu"
    @keydown.esc="close"
    @focusout="!($event.currentTarget as HTMLElement).contains($event.relatedTarget as Node) && close()"
  >
    <summary aria-label="More for this form"><MoreHorizontal :size="18" /></summary>
    <div class="sheet list">
      <button type="button" @click="((showsVersions = true), close())">
        <History :size="16" aria-hidden="true" /> Published versions
      </button>
      <button type="button" @click="duplicate"><Copy :size="16" aria-hidden="true" /> Duplicate</button>
      <button type="button" @click="archive">
        <Archive :size="16" aria-hidden="true" /> {{ form.isArchived ? 'Put back on the Desk' : 'Archive' }}
      </button>
      <button type="button" @click="remove"><Trash2 :size="16" aria-hidden="true" /> Delete</button>
    </div>
  </details>
  <VersionsDialog v-if="showsVersions" :form="form" :draft="draft" @close="showsVersions = false" />
</template>

<style scoped>
.menu {
  position: relative;
}
summary {
  display: flex;
  width: 36px;
  height: 36px;
  align-items: center;
  justify-content: center;
  border-radius: var(--corner);
  list-style: none;
  cursor: pointer;
}
summary::-webkit-details-marker {
  display: none;
}
summary:hover {
  background: var(--sunken);
}
.list {
  position: absolute;
  inset-inline-end: 0;
  z-index: 5;
  display: grid;
  width: 230px;
  padding: var(--gap-1);
  box-shadow: var(--shadow);
}
.list button {
  display: flex;
  gap: var(--gap-2);
  align-items: center;
  min-height: 36px;
  padding: 0 var(--gap-3);
  border: 0;
  border-radius: var(--corner);
  background: none;
  color: var(--ink);
  text-align: start;
  cursor: pointer;
}
.list button:hover {
  background: var(--sunken);
}
</style>

<script setup lang="ts">
import { Download, Upload } from '@lucide/vue'
import { ElButton } from 'element-plus'
import { onMounted, ref, shallowRef, useTemplateRef } from 'vue'
import { readWorkspace, type Workspace, type WorkspaceProblem } from '#core/workspace'
import { replaceWorkspace } from '../db'
import { now } from '../moment'
import { useNotices } from '../stores/notices'
import { useReceiver } from '../stores/receiver'
import { downloadBackup } from './backup'
import { shownMoment } from './moments'

const receiver = useReceiver()
const notices = useNotices()
const chooser = useTemplateRef('chooser')
const isPersistent = ref<boolean | null>(null)
const problem = shallowRef<{ file: string; problem: WorkspaceProblem } | null>(null)
const waiting = shallowRef<{ file: string; workspace: Workspace } | null>(null)
onMounted(async () => (isPersistent.value = (await navigator.storage?.persisted?.()) ?? null))

async function askForPersistence(): Promise<void> {
  isPersistent.value = await navigator.storage.persist()
  if (!isPersistent.value) notices.problem('The browser did not agree. Keep backups: they are files of your own.')
}

async function read(file: File | undefined): Promise<void> {
  problem.value = null
  waiting.value = null
  if (file === undefined) return
  const reading = readWorkspace(await file.text())
  if (reading.ok) waiting.value = { file: file.name, workspace: reading.workspace }
  else problem.value = { file: file.name, problem: reading.problem }
  if (chooser.value) chooser.value.value = ''
}

async function replace(): Promise<void> {
  if (waiting.value === null) return
  await downloadBackup()
  await replaceWorkspace(waiting.value.workspace, now())
  notices.done(`The workspace from ${waiting.value.file} is here. What was here before has been saved as a file.`)
  waiting.value = null
  receiver.reconnect()
}
</script>

<template>
  <section class="group" aria-labelledby="backup-title">
    <h2 id="backup-title">Backup</h2>
    <p>
      Your sites, forms and lists live in this browser. A workspace file holds all of it, with everything that happened to your lists.
      <span class="quiet">{{ receiver.backupAt ? `Last saved ${shownMoment(receiver.backupAt)}.` : 'Never saved yet.' }}</span>
    </p>
    <div class="row">
      <ElButton type="primary" @click="downloadBackup"><Download :size="16" /><span>Save a workspace file</span></ElButton>
      <ElButton @click="chooser?.click()"><Upload :size="16" /><span>Open a workspace file</span></ElButton>
      <input ref="chooser" class="only-heard" type="file" accept=".json,application/json" aria-label="Workspace file" tabindex="-1" @change="read(chooser?.files?.[0])" />
    </div>
    <div v-if="problem" class="notice" role="alert">
      <b>{{ problem.file }} was not opened; nothing has changed.</b>
      <p>
        <template v-if="problem.problem.place"
          >At <code>{{ problem.problem.place }}</code
          >: </template
        >{{ problem.problem.message }}
      </p>
    </div>
    <div v-if="waiting" class="sheet waiting" role="alert">
      <p>
        <b>{{ waiting.file }}</b> holds {{ waiting.workspace.forms.length }} forms, {{ waiting.workspace.lists.length }} lists,
        {{ waiting.workspace.sites.length }} sites and {{ waiting.workspace.journal.entries.length }} journal entries, saved
        {{ shownMoment(waiting.workspace.exportedAt) }}. It takes the place of everything in this browser; what is here now is saved as a file first.
      </p>
      <div class="row">
        <ElButton type="primary" @click="replace">Replace what is here</ElButton>
        <ElButton text @click="waiting = null">Cancel</ElButton>
      </div>
    </div>
    <p v-if="isPersistent === false" class="row">
      <span>This browser may clear its data when the disk runs full.</span>
      <ElButton @click="askForPersistence">Ask it to keep them</ElButton>
    </p>
    <p v-else-if="isPersistent" class="quiet">The browser has agreed to keep this data even when the disk runs full.</p>
  </section>
</template>

<style scoped>
.notice {
  padding: var(--gap-3) var(--gap-4);
  border-inline-start: 4px solid var(--raspberry);
  background: var(--raspberry-wash);
  overflow-wrap: anywhere;
}
.waiting {
  display: grid;
  gap: var(--gap-3);
  padding: var(--gap-4);
}
</style>

<script setup lang="ts">
import { Upload } from '@lucide/vue'
import { ElButton, ElProgress, ElUpload } from 'element-plus'
import { onBeforeUnmount, onMounted, ref, shallowRef } from 'vue'
import { useNotices } from '../notices'
import { useReceiver } from '../sync'
import { useWorkspace } from '../data'
import { type Checked, checkFile, type FileWork, openFile } from './backup'
import { isStopped } from '../worker-calls'
import { shownMoment } from '../controls'
import SaveFile from './SaveFile.vue'

const receiver = useReceiver()
const workspace = useWorkspace()
const notices = useNotices()
const isPersistent = ref<boolean | null>(null)
/** What was found in a file; null until one is chosen. */
const opened = shallowRef<{ file: File; checked: Checked } | null>(null)
const isSaved = ref(false)
const share = ref<number | null>(null)
const work = shallowRef<FileWork<unknown> | null>(null)
onMounted(async () => (isPersistent.value = (await navigator.storage?.persisted?.()) ?? null))
onBeforeUnmount(() => work.value?.stop())
const isBlank = () => workspace.sites.length + workspace.lists.length + workspace.forms.length === 0

async function askForPersistence(): Promise<void> {
  isPersistent.value = await navigator.storage.persist()
  if (!isPersistent.value) notices.problem('The browser did not agree. Keep backups: they are files of your own.')
}

/** Long work with its progress; null when its owner stopped it or it failed, which is then told. */
async function run<T>(started: FileWork<T>, failure: string): Promise<{ result: T } | null> {
  share.value = 0
  work.value = started
  try {
    return { result: await started.result }
  } catch (error) {
    if (!isStopped(error))
      notices.problem(`${failure} ${error instanceof Error ? error.message : 'the browser gave no reason'}.`)
    return null
  } finally {
    share.value = null
    work.value = null
  }
}

async function read(file: File | undefined): Promise<void> {
  opened.value = null
  if (file === undefined) return
  const ended = await run(
    checkFile(file, (done) => (share.value = done)),
    `${file.name} could not be read:`,
  )
  if (ended !== null) opened.value = { file, checked: ended.result }
  isSaved.value = isBlank()
}

async function replace(): Promise<void> {
  const file = opened.value?.file
  if (file === undefined) return
  opened.value = null
  const ended = await run(
    openFile(file, (done) => (share.value = done)),
    `${file.name} was not opened whole:`,
  )
  if (ended !== null) notices.done(`The workspace from ${file.name} is here.`)
  receiver.reconnect()
}
</script>

<template>
  <div class="group">
    <h3>Now, as a file of yours</h3>
    <p>
      One file with everything: sites, forms, lists, and all that happened to the people on them. Opened in any browser,
      it is all there again.
      <span class="quiet">{{
        receiver.backupAt ? `Last saved ${shownMoment(receiver.backupAt)}.` : 'Never saved yet.'
      }}</span>
    </p>
    <div v-if="receiver.opening && share === null" class="notice" role="alert">
      <b>Opening {{ receiver.opening.file }} broke off, so what is here is not whole.</b>
      <p>Open that file again, or the one that was saved before. Nothing is sent to the receiver until then.</p>
    </div>
    <div v-if="share !== null" class="row">
      <ElProgress class="progress" :percentage="Math.round(share * 100)" aria-label="Working on the file" />
      <ElButton @click="work?.stop()">Stop</ElButton>
    </div>
    <div v-else class="row files">
      <SaveFile is-main />
      <ElUpload :auto-upload="false" :show-file-list="false" accept=".json,application/json" @change="read($event.raw)">
        <span class="el-button"><Upload :size="16" /><span>Open a saved file</span></span>
      </ElUpload>
    </div>
    <div v-if="opened && !opened.checked.ok" class="notice" role="alert">
      <b>{{ opened.file.name }} was not opened; nothing has changed.</b>
      <p>
        <template v-if="opened.checked.problem.path"
          >At <code>{{ opened.checked.problem.path }}</code>: </template
        >{{ opened.checked.problem.message }}
      </p>
    </div>
    <div v-else-if="opened && opened.checked.ok" class="sheet waiting" role="alert">
      <p>
        <b>{{ opened.file.name }}</b> holds {{ opened.checked.counts.forms ?? 0 }} forms,
        {{ opened.checked.counts.lists ?? 0 }} lists, {{ opened.checked.counts.sites ?? 0 }} sites and
        {{ opened.checked.counts['journal.entries'] ?? 0 }} events, saved {{ shownMoment(opened.checked.exportedAt) }}.
        It takes the place of everything in this browser.
      </p>
      <template v-if="!isSaved">
        <p>Save what is here first:</p>
        <SaveFile @saved="isSaved = true" />
      </template>
      <div class="row">
        <ElButton v-if="isSaved" type="primary" @click="replace">Replace what is here</ElButton>
        <ElButton v-else text @click="isSaved = true">Go on without a file</ElButton>
        <ElButton text @click="opened = null">Cancel</ElButton>
      </div>
    </div>
    <p v-if="isPersistent === false" class="row">
      <span>This browser may clear its data when the disk runs full.</span>
      <ElButton @click="askForPersistence">Ask it to keep them</ElButton>
    </p>
    <p v-else-if="isPersistent" class="quiet">The browser has agreed to keep this data even when the disk runs full.</p>
  </div>
</template>

<style scoped>
.files {
  align-items: start;
}
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
.progress {
  flex: 1;
  max-width: 26rem;
}
</style>

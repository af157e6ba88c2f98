<script setup lang="ts">
import { ElUpload } from 'element-plus'
import { useRouter } from 'vue-router'
import { useWorkspace } from '../data'
import { useNotices } from '../notices'
import { checkFile, openFile } from '../settings/backup'
import { useReceiver } from '../sync'

/** Opens a workspace file where nothing is yet. */
const router = useRouter()
const workspace = useWorkspace()
const notices = useNotices()
const receiver = useReceiver()

async function open(file: File | undefined): Promise<void> {
  if (file === undefined) return
  // It takes the place of everything: where there is something, Settings ask first, and offer to save it.
  if (workspace.lists.length + workspace.sites.length > 0) {
    notices.problem(
      'There are lists or sites here already. Open the file in Settings, where what is here can be saved first.',
    )
    await router.push('/settings')
    return
  }
  try {
    const checked = await checkFile(file, () => {}).result
    if (!checked.ok) {
      notices.problem(`${file.name} is no file of Ask Box that can be opened: ${checked.problem.message}`)
      return
    }
    await openFile(file, () => {}).result
    notices.done(`The workspace from ${file.name} is here.`)
    receiver.reconnect()
  } catch (error) {
    notices.problem(`${file.name} was not opened: ${error instanceof Error ? error.message : 'no reason was given'}.`)
  }
}
</script>

<template>
  <ElUpload :auto-upload="false" :show-file-list="false" accept=".json,application/json" @change="open($event.raw)">
    <span class="el-button el-button--large is-text">Open a saved file</span>
  </ElUpload>
</template>

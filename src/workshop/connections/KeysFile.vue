<script setup lang="ts">
import { ElButton, ElDialog, ElInput, ElUpload, type UploadFile } from 'element-plus'
import { ref } from 'vue'
import { handToDownloads } from '../controls'
import Labelled from '../controls/Labelled.vue'
import { useNotices } from '../notices'
import { useOutside } from '.'

/** Keys are in no other file: here they go into one of their own, under a passphrase, and come back from it. */
const outside = useOutside()
const notices = useNotices()
const asked = ref<'save' | 'open' | null>(null)
const file = ref<{ name: string; text: string } | null>(null)
const passphrase = ref('')
const problem = ref<string | null>(null)
const isBusy = ref(false)
const LEAST_LETTERS = 8

function ask(what: 'save' | 'open'): void {
  asked.value = what
  file.value = null
  passphrase.value = ''
  problem.value = null
}

async function choose({ raw }: UploadFile): Promise<void> {
  if (raw !== undefined) file.value = { name: raw.name, text: await raw.text() }
}

async function go(): Promise<void> {
  if (outside.client === null) return
  isBusy.value = true
  problem.value = null
  try {
    if (asked.value === 'save') {
      const { sealed } = await outside.client.saveKeys(passphrase.value)
      handToDownloads({ blob: new Blob([`${sealed}\n`], { type: 'text/plain' }), name: 'Keys of connections.txt' })
    } else {
      const { count } = await outside.client.openKeys(passphrase.value, file.value!.text)
      notices.done(`${count === 1 ? '1 key is' : `${count} keys are`} back.`)
      await outside.look()
    }
    asked.value = null
  } catch (error) {
    problem.value = error instanceof Error ? error.message : String(error)
  } finally {
    isBusy.value = false
  }
}
</script>

<template>
  <div class="row">
    <ElButton @click="ask('save')">Save the keys in a file</ElButton>
    <ElButton @click="ask('open')">Bring keys back</ElButton>
    <ElDialog
      :model-value="asked !== null"
      :title="asked === 'save' ? 'Save the keys in a file' : 'Bring keys back'"
      width="min(480px, 94vw)"
      append-to-body
      @close="asked = null"
    >
      <form novalidate class="asked" @submit.prevent="go()">
        <p v-if="asked === 'save'" class="small">
          Saved files and backups hold no keys. In this file they lie under a passphrase; without it, nobody reads them,
          you neither.
        </p>
        <template v-else>
          <ElUpload :auto-upload="false" :show-file-list="false" accept=".txt,text/plain" @change="choose">
            <ElButton>Choose the file</ElButton>
          </ElUpload>
          <p v-if="file" class="small">{{ file.name }}</p>
        </template>
        <Labelled label="Passphrase" :problem="problem" hint="At least 8 characters.">
          <ElInput v-model="passphrase" type="password" autocomplete="new-password" />
        </Labelled>
        <div class="row">
          <ElButton
            type="primary"
            native-type="submit"
            :loading="isBusy"
            :disabled="passphrase.length < LEAST_LETTERS || (asked === 'open' && file === null)"
            >{{ asked === 'save' ? 'Save' : 'Bring them back' }}</ElButton
          >
          <ElButton text @click="asked = null">Cancel</ElButton>
        </div>
      </form>
    </ElDialog>
  </div>
</template>

<style scoped>
.asked {
  display: grid;
  gap: var(--gap-3);
  justify-items: start;
}
.asked > .el-form-item {
  width: 100%;
}
p {
  margin: 0;
}
</style>

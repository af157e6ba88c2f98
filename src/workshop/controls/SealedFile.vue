<script setup lang="ts">
import { ElButton, ElDialog, ElInput, ElUpload, type UploadFile } from 'element-plus'
import { ref } from 'vue'
import { handToDownloads } from './downloads'
import Labelled from './Labelled.vue'

/** Something secret goes into a file of its own, under a passphrase, and comes back from it. */
const { words, save, open } = defineProps<{
  words: { save: string; open: string; about: string; file: string }
  /** Resolves with the sealed text. */
  save(passphrase: string): Promise<string>
  open(sealed: string, passphrase: string): Promise<void>
}>()
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
  isBusy.value = true
  problem.value = null
  try {
    if (asked.value === 'save') {
      const sealed = await save(passphrase.value)
      handToDownloads({ blob: new Blob([`${sealed}\n`], { type: 'text/plain' }), name: words.file })
    } else await open(file.value!.text, passphrase.value)
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
    <ElButton @click="ask('save')">{{ words.save }}</ElButton>
    <ElButton @click="ask('open')">{{ words.open }}</ElButton>
    <ElDialog
      :model-value="asked !== null"
      :title="asked === 'save' ? words.save : words.open"
      width="min(480px, 94vw)"
      append-to-body
      @close="asked = null"
    >
      <form novalidate class="asked" @submit.prevent="go()">
        <p v-if="asked === 'save'" class="small">
          {{ words.about }}
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
            >{{ asked === 'save' ? 'Save' : 'Bring back' }}</ElButton
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

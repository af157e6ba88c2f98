<script setup lang="ts">
import { Download } from '@lucide/vue'
import { ElButton, ElCheckbox, ElInput, ElProgress } from 'element-plus'
import { computed, onBeforeUnmount, ref, shallowRef } from 'vue'
import { clientFor } from '../client'
import { writeSetting } from '../data'
import { useReceiver } from '../sync'
import { useNotices } from '../notices'
import { handToDownloads } from '../controls'
import Labelled from '../controls/Labelled.vue'
import { type FileWork, writeFile } from './backup'
import { isStopped } from '../worker-calls'

/** Saves everything in this browser as a file. Only its owner can see that it has arrived, so only the owner says so. */
const { isMain = false } = defineProps<{ isMain?: boolean }>()
const emit = defineEmits<{ saved: [] }>()

const notices = useNotices()
const receiver = useReceiver()
/** Whether the key of links goes along: with a passphrase, which is not kept. */
const withLinks = ref(false)
const passphrase = ref('')
const LEAST_LETTERS = 8
const mayHaveLinks = computed(() => receiver.bearer?.right === 'owner' && receiver.pairing !== null)
const isReady = computed(() => !withLinks.value || passphrase.value.length >= LEAST_LETTERS)
const share = ref<number | null>(null)
const work = shallowRef<FileWork<{ blob: Blob; name: string; at: string }> | null>(null)
const handed = shallowRef<{ blob: Blob; name: string; at: string } | null>(null)
onBeforeUnmount(() => work.value?.stop())

async function save(): Promise<void> {
  handed.value = null
  share.value = 0
  try {
    const sealed =
      mayHaveLinks.value && withLinks.value
        ? (await clientFor({ ...receiver.pairing! }).saveLinkKeys(passphrase.value)).sealed
        : null
    work.value = writeFile((done) => (share.value = done), sealed)
    const written = await work.value.result
    handToDownloads(written)
    handed.value = written
    withLinks.value = false
    passphrase.value = ''
  } catch (error) {
    if (!isStopped(error))
      notices.problem(
        `The file was not written: ${error instanceof Error ? error.message : 'the browser gave no reason'}. What is here is unchanged.`,
      )
  } finally {
    share.value = null
    work.value = null
  }
}

async function confirm(): Promise<void> {
  if (handed.value === null) return
  await writeSetting('backupAt', handed.value.at)
  handed.value = null
  emit('saved')
}
</script>

<template>
  <div class="save-file">
    <div v-if="share !== null" class="row">
      <ElProgress class="progress" :percentage="Math.round(share * 100)" aria-label="Writing the file" />
      <ElButton @click="work?.stop()">Stop</ElButton>
    </div>
    <div v-else-if="handed" class="handed">
      <p role="status">
        <b>{{ handed.name }}</b> was handed to your browser’s downloads. Is it there?
      </p>
      <div class="row">
        <ElButton type="primary" @click="confirm">It is there</ElButton>
        <ElButton text @click="handToDownloads(handed)">Hand it over again</ElButton>
      </div>
    </div>
    <template v-else>
      <ElButton :type="isMain ? 'primary' : undefined" :disabled="!isReady" @click="save"
        ><Download :size="16" /><span>Save everything as a file</span></ElButton
      >
      <template v-if="mayHaveLinks">
        <ElCheckbox v-model="withLinks">With the key of links in mails</ElCheckbox>
        <Labelled
          v-if="withLinks"
          label="Passphrase for that key"
          hint="At least 8 characters; it is kept nowhere. Needed where Ask Box begins anew from this file: links in mails that are out go on then."
        >
          <ElInput v-model="passphrase" type="password" autocomplete="new-password" />
        </Labelled>
      </template>
    </template>
  </div>
</template>

<style scoped>
.save-file {
  display: grid;
  gap: var(--gap-1);
  justify-items: start;
  max-width: 26rem;
}
.handed {
  display: grid;
  gap: var(--gap-2);
}
.handed p {
  margin: 0;
}
.progress {
  flex: 1;
  max-width: 26rem;
}
</style>

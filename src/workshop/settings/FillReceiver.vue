<script setup lang="ts">
import { ElButton, ElInput, ElProgress } from 'element-plus'
import { computed, ref } from 'vue'
import Labelled from '../controls/Labelled.vue'
import { readSetting, useLive } from '../data'
import { refillReceiver, useReceiver } from '../sync'
import { useFilling } from './filling'

/** Where the receiver has nothing of what is here: no form works until it is filled. */
const receiver = useReceiver()
const { progress, fill, stop } = useFilling()
/** Keys of links that came with an opened file. */
const linkKeys = useLive(async () => (await readSetting('linkKeys')) ?? null, null)
const passphrase = ref('')
const hasSealed = computed(() => linkKeys.value !== null && 'sealed' in linkKeys.value)
const fillIt: typeof refillReceiver = (pairing, onProgress, signal) =>
  refillReceiver(pairing, onProgress, signal, passphrase.value)
const missing = computed(() => (receiver.sync?.state === 'empty-receiver' ? receiver.sync.missing : 0))
</script>

<template>
  <section v-if="progress !== null || receiver.sync?.state === 'empty-receiver'" class="sheet fill" role="alert">
    <template v-if="progress !== null">
      <ElProgress :percentage="Math.round(progress * 100)" aria-label="Filling the receiver" />
      <div class="row"><ElButton @click="stop">Stop</ElButton></div>
    </template>
    <template v-else>
      <h2>No form works yet</h2>
      <p>
        What takes in sign-ups, the receiver, is new: it has nothing of what is here ({{
          missing.toLocaleString('en-GB')
        }}
        events, and all that you made). Filled from here, forms and pages answer as they did. Nobody is written to by
        it.
      </p>
      <Labelled
        v-if="hasSealed"
        label="Passphrase of the key of links"
        hint="It was set when the file was saved. With it, links in mails that are out go on."
      >
        <ElInput v-model="passphrase" type="password" autocomplete="off" />
      </Labelled>
      <p v-if="linkKeys === null || (hasSealed && passphrase === '')">
        Without the key of links, these links in mails that are out end: to confirm, to leave, to gifts, to letters in
        the browser, and pages of results. And whom you erased is known no more: a file could bring them back.
        <template v-if="linkKeys === null"
          >Where you have it in a file, it can be brought back later, in Settings.</template
        >
      </p>
      <div class="row">
        <ElButton type="primary" @click="fill(fillIt)">Fill the receiver from here</ElButton>
      </div>
    </template>
  </section>
</template>

<style scoped>
.fill {
  display: grid;
  gap: var(--gap-3);
  padding: var(--gap-4) var(--gap-5);
  border-inline-start: 4px solid var(--moss);
}
h2,
p {
  margin: 0;
  max-width: 70ch;
}
</style>

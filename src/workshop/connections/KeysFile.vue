<script setup lang="ts">
import SealedFile from '../controls/SealedFile.vue'
import { useNotices } from '../notices'
import { useOutside } from '.'

/** Keys are in no other file: here they go into one of their own, under a passphrase, and come back from it. */
const outside = useOutside()
const notices = useNotices()
const words = {
  save: 'Save the keys in a file',
  open: 'Bring keys back',
  about:
    'Saved files and backups hold no keys. In this file they lie under a passphrase; without it, nobody reads them, you neither.',
  file: 'Keys of connections.txt',
}
function client() {
  if (outside.client === null) throw new Error('Ask Box does not answer just now.')
  return outside.client
}
const save = async (passphrase: string) => (await client().saveKeys(passphrase)).sealed
async function open(sealed: string, passphrase: string): Promise<void> {
  const { count } = await client().openKeys(passphrase, sealed)
  notices.done(`${count === 1 ? '1 key is' : `${count} keys are`} back.`)
  await outside.look()
}
</script>

<template>
  <SealedFile :words="words" :save="save" :open="open" />
</template>

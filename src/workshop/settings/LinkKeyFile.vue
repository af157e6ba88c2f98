<script setup lang="ts">
import SealedFile from '../controls/SealedFile.vue'
import type { OpeningsInHand } from './openings'

/** The key of links in a file of its own: with it, a receiver that is new makes the links of before work. */
const { openings } = defineProps<{ openings: OpeningsInHand }>()
const words = {
  save: 'Save it in a file',
  open: 'Bring one back',
  about:
    'With this file, links in mails that are out go on with a receiver that is new. The key lies in it under a passphrase; without it, nobody reads it, you neither.',
  file: 'Key of links.txt',
}
</script>

<template>
  <SealedFile :words="words" :save="openings.saveLinks" :open="openings.openLinks" />
</template>

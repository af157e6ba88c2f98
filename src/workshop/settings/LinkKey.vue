<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import { shownDay } from '../controls'
import LinkKeyFile from './LinkKeyFile.vue'
import type { OpeningsInHand } from './openings'

/** The key that links in mails are marked with: never shown, made anew, kept in a file under a passphrase. */
const { openings, isOwner } = defineProps<{ openings: OpeningsInHand; isOwner: boolean }>()
const { all, isSure, renewLinks } = openings
const links = computed(() => all.value!.links!)
const day = (at: number) => shownDay(new Date(at).toISOString().slice(0, 10))
const ASKED = 'key of links'
</script>

<template>
  <h3 id="links-title">The key of links in mails</h3>
  <p>
    Links to confirm, to leave, to gifts and to letters in the browser are marked with it, so that nobody makes one up.
    It is made anew each year by itself, and nobody is shown it.
    <span class="quiet">Made {{ day(links.madeAt) }}{{ links.by ? ` by ${links.by}` : '' }}.</span>
  </p>
  <p v-if="links.suspects.length > 0" class="quiet">
    Links from before {{ day(links.madeAt) }} are good for leaving, and for nothing else.
  </p>
  <p v-if="links.hasUnopened" class="notice" role="alert">
    An older key of links cannot be opened: it was sealed with another secret. Links that it marked lead nowhere until
    Ask Box is started with that secret (<code>ASKBOX_SECRET</code>, or the file beside the data folder).
  </p>
  <template v-if="isOwner">
    <div v-if="isSure !== ASKED" class="row">
      <LinkKeyFile :openings="openings" />
      <ElButton text @click="isSure = ASKED">Somebody may have it</ElButton>
    </div>
    <div v-else class="notice">
      <p>
        Made anew, the links in all mails sent until now are good for leaving, and for nothing else: nobody confirms,
        takes a gift or opens a letter by them, and pages of results have to be handed out again.
      </p>
      <div class="row">
        <ElButton type="danger" @click="renewLinks()">Make it anew</ElButton>
        <ElButton text @click="isSure = null">Keep it</ElButton>
      </div>
    </div>
  </template>
</template>

<style scoped>
.notice {
  display: grid;
  gap: var(--gap-3);
  padding: var(--gap-3) var(--gap-4);
  border-inline-start: 4px solid var(--raspberry);
  background: var(--raspberry-wash);
}
.notice p {
  margin: 0;
}
</style>

<script setup lang="ts">
import type { BrowserState } from '#core/api'
import { ElButton } from 'element-plus'
import { shallowRef, watch } from 'vue'
import { clientFor } from '../client'
import { useReceiver } from '../sync'

/** Whether the receiver has a browser of its own for rehearsals, and how to get one. */
const receiver = useReceiver()
const browser = shallowRef<BrowserState | null>(null)
const isLooking = shallowRef(false)

async function look(): Promise<void> {
  if (receiver.pairing === null) return
  isLooking.value = true
  browser.value = await clientFor({ ...receiver.pairing })
    .describeBrowser()
    .catch(() => null)
  isLooking.value = false
}
watch(() => receiver.pairing?.receiver, look, { immediate: true })
</script>

<template>
  <p v-if="browser?.state === 'ready'">
    Chromium {{ browser.version }} stands beside the receiver. Every rehearsal uses it: it opens the page with an empty
    profile, at desk and at phone size, with scripts and without, and fills in and presses what a visitor would.
  </p>
  <template v-else-if="browser">
    <p v-if="browser.state === 'none'">
      The receiver has no browser. Rehearsals go on in a frame of this one, and what a frame cannot show is “not tried”:
      the page’s own scripts, and what lies over the form.
    </p>
    <p v-else role="alert">
      The receiver’s browser does not start, so rehearsals go on in a frame of this one. It said: {{ browser.reason }}
    </p>
    <p v-if="browser.state === 'none'">
      To install one on Debian, on the receiver’s computer: <code>sudo apt install chromium-headless-shell</code>
    </p>
    <div class="row"><ElButton :loading="isLooking" @click="look">Look again</ElButton></div>
  </template>
</template>

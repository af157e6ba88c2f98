<script setup lang="ts">
import type { ClockLeap } from '#core/api'
import { ElButton } from 'element-plus'
import { useIntervalFn } from '@vueuse/core'
import { shallowRef } from 'vue'
import { clientFor } from '../client'
import { leapWords } from '../controls'
import { useNotices } from '../notices'
import { useReceiver } from '../sync'

/** Shown while the receiver does not trust its computer's clock: it asks whether the clock is right. */
const LOOK_MS = 60_000
const receiver = useReceiver()
const notices = useNotices()
const leap = shallowRef<ClockLeap | null>(null)

async function look(): Promise<void> {
  if (receiver.pairing === null) return
  leap.value = await clientFor({ ...receiver.pairing })
    .describe()
    .then((told) => told.leap)
    .catch(() => leap.value)
}
void look()
useIntervalFn(() => void look(), LOOK_MS)

async function confirm(): Promise<void> {
  if (receiver.pairing === null) return
  leap.value = (await clientFor({ ...receiver.pairing }).confirmClock()).leap
  notices.done('The clock counts again for everything.')
}
</script>

<template>
  <div v-if="leap" class="sheet clock" role="status">
    <p><b>Is the clock right?</b> {{ leapWords(leap) }} If it is wrong, set it right on that computer.</p>
    <div><ElButton @click="confirm">The clock is right</ElButton></div>
  </div>
</template>

<style scoped>
.clock {
  display: grid;
  gap: var(--gap-3);
  padding: var(--gap-4);
}
</style>

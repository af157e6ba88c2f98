<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed, ref } from 'vue'
import type { Form, Version } from '#core/form'
import { shownMoment } from '../controls'
import { useWorkspace } from '../data'
import { useReceiver } from '../sync'
import { useTrialsBeside } from './trials-beside'
import { usePublishing } from './publishing'

const {
  form,
  whenKept,
  latest,
  isPublished,
  isMailPublished,
  faults = 0,
} = defineProps<{
  form: Form
  /** Resolves once everything in hand is kept. */
  whenKept: () => Promise<unknown>
  isPublished: boolean
  /** Whether the list's mail is sent as it is written. */
  isMailPublished: boolean
  latest: Version | null
  /** How many findings speak against what would be published. */
  faults?: number
}>()

const workspace = useWorkspace()
const publishing = usePublishing()
const receiver = useReceiver()
const trials = useTrialsBeside()
/** What visitors get while a trial goes on. */
const going = computed(() => trials.goingOn([form.id]))
const isBusy = ref(false)
const words = computed(() => {
  const what = isPublished ? 'the mail ' : ''
  if (faults > 0) return `Publish ${what}with ${faults === 1 ? '1 fault' : `${faults} faults`}`
  return isPublished ? 'Publish the mail' : `Publish version ${workspace.nextVersion(form.id)}`
})

async function publish(): Promise<void> {
  isBusy.value = true
  try {
    await whenKept()
    await publishing.publish(form.id)
  } finally {
    isBusy.value = false
  }
}
</script>

<template>
  <span v-if="isPublished && isMailPublished && latest" class="quiet small"
    >Version {{ latest.number }}, published {{ shownMoment(latest.publishedAt)
    }}<template v-for="one in going" :key="one.id"
      >; in its trial, visitors get {{ trials.versionsIn(one) }}</template
    ></span
  >
  <ElButton v-else type="primary" :loading="isBusy" :disabled="receiver.looksOn" @click="publish">{{ words }}</ElButton>
</template>

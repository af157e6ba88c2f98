<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { afterPublishing, codeOf, codeReachProblem } from '#core/embed'
import type { Form, Version } from '#core/form'
import type { StationState } from '#core/line'
import type { Draft } from './draft'
import { useNotices } from '../shell/notices'
import { useWorkspace } from '../data'
import { useReceiver } from '../sync'
import { shownMoment } from '../controls/shown'

const { form, draft, line, latest, isPublished, isMailPublished } = defineProps<{
  form: Form
  draft: Draft
  line: StationState[]
  isPublished: boolean
  /** Whether the list's mail is sent as it is written. */
  isMailPublished: boolean
  latest: Version | null
}>()

const workspace = useWorkspace()
const receiver = useReceiver()
const notices = useNotices()
const router = useRouter()
const isBusy = ref(false)
const findings = computed(() => line.flatMap((state) => state.findings).filter(({ weight }) => weight === 'stops'))

/** What is found follows when the hands rest: a column that a field just made is not missed. */
const FINDINGS_REST_MS = 300

/** Why none of its spots can be used yet; null where one can. */
function waits(): string | null {
  const { publicUrl } = receiver
  const sites = workspace
    .spotsOf(form.id)
    .flatMap(({ state, site }) => (state === 'live' ? (workspace.site(site) ?? []) : []))
  const reaches = sites.map((site) => (publicUrl === null ? null : codeReachProblem(publicUrl, site)))
  return reaches.length > 0 && reaches.every((reach) => reach !== null) ? reaches[0]! : null
}

async function publish(): Promise<void> {
  isBusy.value = true
  await draft.whenKept()
  await new Promise((resolve) => setTimeout(resolve, FINDINGS_REST_MS))
  isBusy.value = false
  const [first] = findings.value
  if (first !== undefined) {
    notices.problem(`Not published. ${first.message}`)
    await router.replace({ name: 'form', params: { id: form.id, station: first.station } })
    return
  }
  isBusy.value = true
  try {
    await draft.whenKept()
    if (!isMailPublished) await workspace.publishMail(form.list)
    if (isPublished) {
      notices.done('The mail is published: what is sent from now on is as you wrote it.')
      return
    }
    const version = await receiver.publish(form.id)
    const live = workspace
      .spotsOf(form.id)
      .filter(({ state }) => state === 'live')
      .map((spot) => ({ kind: spot.kind, code: codeOf(spot, workspace.site(spot.site)) }))
    notices.done(`Version ${version.number} is published. ${afterPublishing(live, version.number === 1, waits())}`)
    await router.replace({ name: 'form', params: { id: form.id, station: 'spot' } })
  } catch (error) {
    notices.problem(
      `Not published: ${error instanceof Error ? error.message : 'no answer'}. The draft is safe here; publish it again when Ask Box is reached.`,
    )
  } finally {
    isBusy.value = false
  }
}
</script>

<template>
  <span v-if="isPublished && isMailPublished && latest" class="quiet small"
    >Version {{ latest.number }}, published {{ shownMoment(latest.publishedAt) }}</span
  >
  <ElButton v-else type="primary" :loading="isBusy" @click="publish">{{
    isPublished ? 'Publish the mail' : `Publish version ${(latest?.number ?? 0) + 1}`
  }}</ElButton>
</template>

<script setup lang="ts">
import { ElButton, ElInput, ElUpload, type UploadFile } from 'element-plus'
import { computed, ref, watch } from 'vue'
import { codeOf } from '#core/embed'
import type { Version } from '#core/form'
import type { InstallFinding, InstallReport, PageToCheck } from '#core/install'
import { addressProblem, completedAddress, type Site, sitePath } from '#core/site'
import { type Spot, spotName } from '#core/spot'
import Labelled from '../../controls/Labelled.vue'
import Views from '../../controls/Views.vue'
import { useWorkspace } from '../../data'
import { useReceiver } from '../../sync'
import CodeOfSpot from './CodeOfSpot.vue'
import { lookFor, seenInBrowser } from './install-check'

/** Says what became of a spot's code on its page: fetched by the receiver, pasted, or from a file. */
const { spot, site } = defineProps<{ spot: Spot; site: Site | null }>()
const workspace = useWorkspace()
const receiver = useReceiver()

type Way = 'address' | 'source' | 'file'
const way = ref<Way>('address')
const ways: { value: Way; label: string }[] = [
  { value: 'address', label: 'By its address' },
  { value: 'source', label: 'Pasted code' },
  { value: 'file', label: 'A file' },
]
const address = ref('')
watch(
  () => spot.page || (site?.address ?? ''),
  (known) => (address.value = known),
  { immediate: true },
)
const source = ref('')
const isBusy = ref(false)
const problem = ref<string | null>(null)
const shown = ref<{ page: PageToCheck; report: InstallReport } | null>(null)

const states: Record<InstallReport['state'], string> = {
  whole: 'The code stands there, whole.',
  edited: 'The code stands there, whole, changed by hand.',
  damaged: 'The code stands there, but not as it should.',
  absent: 'The code is not there.',
  unclear: 'Whether it works cannot be told from the page’s source.',
}
const lines = computed(() => shown.value?.page.html.split('\n') ?? [])
const MOST_LINES = 6
const MOST_LENGTH = 240
function excerpt({ lines: where }: InstallFinding): string | null {
  if (where === null) return null
  const [from, to] = where
  const taken = lines.value.slice(from - 1, Math.min(to, from - 1 + MOST_LINES))
  return taken
    .map((text, at) => `${from + at}  ${text.length > MOST_LENGTH ? `${text.slice(0, MOST_LENGTH)} …` : text}`)
    .concat(to - from >= MOST_LINES ? ['…'] : [])
    .join('\n')
}

/** The same lines are shown once, under the first finding about them. */
function isShownAbove(findings: readonly InstallFinding[], at: number): boolean {
  return findings.slice(0, at).some(({ lines: where }) => String(where) === String(findings[at]!.lines))
}

async function look(get: () => Promise<PageToCheck>): Promise<void> {
  isBusy.value = true
  problem.value = null
  shown.value = null
  try {
    const page = await get()
    // Plain copies: what the store keeps watch over cannot travel to a worker.
    const expected = JSON.parse(
      JSON.stringify({
        spot,
        code: codeOf(spot, site),
        receiver: receiver.publicUrl,
        versions: workspace.versionsOf(spot.form),
        under: sitePath(site?.address ?? ''),
      }),
    )
    const others = spotNames()
    const report = await lookFor({ page, expected: { ...expected, others } })
    shown.value = { page, report: await alsoSeen(page, report) }
  } catch (error) {
    problem.value = error instanceof Error ? error.message : String(error)
  } finally {
    isBusy.value = false
  }
}

const spotNames = () => new Map(workspace.spots.map((one) => [one.id as string, spotName(one, workspace.sites)]))

/** A page that can be opened is looked at in the receiver's browser too, where there is one. */
async function alsoSeen({ address }: PageToCheck, report: InstallReport): Promise<InstallReport> {
  const version = workspace.latestVersion(spot.form)
  const { pairing, publicUrl } = receiver
  if (address === null || version === null || pairing === null || publicUrl === null || spot.state !== 'live')
    return report
  const plain = JSON.parse(JSON.stringify({ spot, version })) as { spot: Spot; version: Version }
  return seenInBrowser({ ...pairing }, publicUrl, { ...plain, address, others: spotNames() }, report).catch(
    () => report,
  )
}

function byAddress(): void {
  const typed = completedAddress(address.value)
  const wrong = addressProblem(typed)
  if (wrong !== null) {
    problem.value = wrong
    return
  }
  void look(async () => {
    const { status, html, address: found, policies } = await receiver.fetchPage(typed)
    if (status >= 400) throw new Error(`The site answered ${status}: there is no such page, or it is not public.`)
    return { html, address: found, policies }
  })
}
const bySource = () => look(async () => ({ html: source.value, address: null, policies: [] }))
function byFile({ raw }: UploadFile): void {
  if (raw) void look(async () => ({ html: await raw.text(), address: null, policies: [] }))
}
</script>

<template>
  <section class="check" aria-label="On the page">
    <div class="row head">
      <h4>What became of it on the page</h4>
      <Views v-model="way" label="Which page is looked at" :views="ways" />
    </div>
    <form novalidate v-if="way === 'address'" class="row" @submit.prevent="byAddress">
      <ElInput v-model="address" type="url" aria-label="Address of the page to check" />
      <ElButton native-type="submit" :loading="isBusy">Check the page</ElButton>
    </form>
    <form novalidate v-else-if="way === 'source'" class="stack" @submit.prevent="bySource">
      <Labelled label="The page’s source" hint="In a browser, “View source” of the page shows it.">
        <ElInput v-model="source" type="textarea" :rows="5" />
      </Labelled>
      <div><ElButton native-type="submit" :disabled="source.trim() === ''" :loading="isBusy">Check it</ElButton></div>
    </form>
    <ElUpload
      v-else
      drag
      accept=".html,.htm,.txt"
      :auto-upload="false"
      :show-file-list="false"
      aria-label="The page as a file"
      @change="byFile"
    >
      Drop the page’s file here, or press to choose it.
    </ElUpload>
    <p v-if="problem" class="problem small" role="alert">{{ problem }}</p>
    <div v-if="shown" class="report" :class="shown.report.state" role="status">
      <p class="state">
        {{ states[shown.report.state] }}
        <span v-if="shown.report.version !== null" class="quiet">Version {{ shown.report.version }}.</span>
        <span v-if="shown.report.edits.length > 0" class="quiet">
          What was changed: {{ shown.report.edits.join(' and ') }}. That does no harm.
        </span>
      </p>
      <ul v-if="shown.report.findings.length > 0">
        <li
          v-for="(finding, at) in shown.report.findings"
          :key="finding.code + finding.message"
          :class="finding.weight"
        >
          <p>{{ finding.message }}</p>
          <p class="quiet">{{ finding.mend }}</p>
          <CodeOfSpot v-if="finding.spot" :spot="finding.spot" />
          <pre
            v-if="excerpt(finding) && !isShownAbove(shown.report.findings, at)"
            tabindex="0"
            aria-label="Lines of the page"
            >{{ excerpt(finding) }}</pre>
        </li>
      </ul>
    </div>
  </section>
</template>

<style scoped>
.check {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-2);
}
.head {
  justify-content: space-between;
  flex-wrap: wrap;
}
h4 {
  margin: 0;
  font-size: var(--text-m);
}
form.row {
  flex-wrap: nowrap;
}
.stack {
  display: grid;
  gap: var(--gap-2);
}
.report {
  padding: var(--gap-3);
  border: 1px solid var(--hairline);
  border-inline-start: 3px solid var(--moss);
  border-radius: var(--corner);
}
.report.unclear {
  border-inline-start-color: var(--edge);
}
.report.damaged,
.report.absent {
  border-inline-start-color: var(--raspberry);
}
.state {
  margin: 0;
  font-weight: 600;
}
.state .quiet {
  font-weight: 400;
}
ul {
  display: grid;
  gap: var(--gap-2);
  margin: var(--gap-2) 0 0;
  padding: 0;
  list-style: none;
}
li p {
  margin: 0;
}
.damage > p:first-child {
  color: var(--raspberry);
}
pre {
  max-height: 180px;
  margin: var(--gap-1) 0 0;
  padding: var(--gap-2) var(--gap-3);
  overflow: auto;
  border-radius: var(--corner);
  background: var(--sunken);
  font-size: 0.8125rem;
  white-space: pre-wrap;
  overflow-wrap: anywhere;
}
</style>

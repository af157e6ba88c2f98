<script setup lang="ts">
import { ElButton, ElCollapse, ElCollapseItem } from 'element-plus'
import { computed, defineAsyncComponent, ref } from 'vue'
import { caseName, countsOf, differencesBetween, type Proof, type Step, verdictWords } from '#core/proof'
import { type Spot, spotName } from '#core/spot'
import { handToDownloads, lowerFirst, shownMoment } from '../controls'
import { proofsOf, useLive, useWorkspace } from '../data'
import { stationNames } from '#core/station'
import PageLook from './PageLook.vue'
import RehearseButton from './RehearseButton.vue'
import { shownDuration } from './signals'

/** How a spot's rehearsals went: the newest with all its cases, what differs from the one before, and its files. */
const { spot } = defineProps<{ spot: Spot }>()
const CasesDialog = defineAsyncComponent(() => import('./CasesDialog.vue'))
const ByHand = defineAsyncComponent(() => import('./ByHand.vue'))
const workspace = useWorkspace()
const proofs = useLive(() => proofsOf([spot.id]), null as Proof[] | null, [() => spot.id])
const newest = computed(() => proofs.value?.[0] ?? null)
const before = computed(() => proofs.value?.[1] ?? null)
const counts = computed(() => (newest.value === null ? null : countsOf(newest.value)))
const differences = computed(() =>
  newest.value === null || before.value === null ? [] : differencesBetween(before.value, newest.value),
)
/** One picture of each kind of visitor. */
const looks = computed(() => {
  const all = newest.value?.steps.filter(({ look }) => look !== undefined) ?? []
  return all.filter(({ look }, at) => all.findIndex((one) => one.look!.viewer === look!.viewer) === at)
})
/** Kinds of cases of which nothing was tried, with the first reason. */
const untried = computed(() => [
  ...new Map(
    byCase.value
      .filter(({ verdict }) => verdict === 'not-tried')
      .map(({ name, steps }) => [name, `${lowerFirst(name)} (${shortly(steps[0]!.seen)})`]),
  ).values(),
])
const shortly = (text: string) => (text.length > 110 ? `${text.slice(0, 108)} …` : text.replace(/\.$/, ''))
const choosesCases = ref(false)
const isByHand = ref(false)

const byCase = computed(() => {
  const groups = new Map<Step['case'], Step[]>()
  for (const step of newest.value?.steps ?? []) groups.set(step.case, [...(groups.get(step.case) ?? []), step])
  return [...groups].map(([one, steps]) => ({
    name: caseName(one),
    steps,
    verdict: steps.some(({ verdict }) => verdict === 'failed')
      ? ('failed' as const)
      : steps.some(({ verdict }) => verdict === 'passed')
        ? ('passed' as const)
        : ('not-tried' as const),
  }))
})

async function save(kind: 'page' | 'xml'): Promise<void> {
  if (newest.value === null) return
  const { proofPage, proofXml } = await import('#core/report')
  const form = workspace.form(spot.form)
  const names = { form: form?.name ?? '', spot: spotName(spot, workspace.sites) }
  const name = `rehearsal ${names.spot} ${newest.value.at.slice(0, 10)}`
    .replace(/[^\p{L}\p{N} -]+/gu, '')
    .replace(/ +/g, '-')
  handToDownloads(
    kind === 'page'
      ? { blob: new Blob([proofPage(newest.value, names, before.value)], { type: 'text/html' }), name: `${name}.html` }
      : { blob: new Blob([proofXml([newest.value], () => names)], { type: 'application/xml' }), name: `${name}.xml` },
  )
}
</script>

<template>
  <section class="proof" aria-label="Rehearsal">
    <div class="row head">
      <h3>Rehearsal</h3>
      <span v-if="newest && counts" class="small">
        <b :class="newest.verdict">{{ verdictWords[newest.verdict] }}</b>{{ ' ' }}
        <span class="quiet">
          {{ shownMoment(newest.at) }}, version {{ newest.version }}, {{ shownDuration(newest.ms)
          }}{{ newest.by === 'receiver' ? ', by itself' : '' }}: {{ counts.passed }} passed<template
            v-if="counts.failed"
            >, {{ counts.failed }} failed</template
          ><template v-if="counts.notTried">, {{ counts.notTried }} not tried</template>
        </span>
      </span>
      <span v-else-if="proofs !== null" class="quiet small"
        >Never. One press proves the whole way: page, form, answer, mail, list.</span
      >
      <span class="ways row">
        <RehearseButton :spots="[spot]" />
        <ElButton text @click="choosesCases = true">What is tried</ElButton>
        <ElButton text :aria-expanded="isByHand" @click="isByHand = !isByHand">By hand</ElButton>
      </span>
    </div>
    <ByHand v-if="isByHand" :spot="spot" />
    <p v-if="differences.length > 0" class="small">
      Other than the time before: {{ differences.slice(0, 4).join('; ') }}{{ differences.length > 4 ? ' …' : '' }}.
    </p>
    <div v-if="looks.length > 0" class="looks" role="group" aria-label="Who tried">
      <PageLook v-for="{ look, verdict, what } in looks" :key="what" :look="look!" :is-failed="verdict === 'failed'" />
    </div>
    <p v-if="untried.length > 0" class="small quiet">Not tried: {{ untried.join('; ') }}.</p>
    <ElCollapse v-if="newest">
      <ElCollapseItem :title="`All that was tried: ${byCase.length} cases, in ${newest.steps.length} steps`">
        <ul class="cases">
          <li v-for="one in byCase" :key="one.name" :class="one.verdict">
            <b>{{ one.name }}</b> <span class="small verdict">{{ verdictWords[one.verdict] }}</span>
            <ul class="steps small">
              <li v-for="(step, at) in one.steps" :key="at" :class="step.verdict">
                <span class="quiet">{{ stationNames[step.station] }}</span>
                <span
                  >{{ step.what }}: <span class="quiet">{{ step.seen }}</span></span
                >
                <span class="quiet time">{{ step.verdict === 'not-tried' ? '' : shownDuration(step.ms) }}</span>
              </li>
            </ul>
          </li>
        </ul>
        <div class="row">
          <ElButton size="small" @click="save('page')">Save as a page</ElButton>
        </div>
        <ElCollapse>
          <ElCollapseItem title="For whoever looks after the server">
            <ElButton size="small" @click="save('xml')">Save as JUnit XML</ElButton>
          </ElCollapseItem>
        </ElCollapse>
      </ElCollapseItem>
    </ElCollapse>
    <CasesDialog v-if="choosesCases" @close="choosesCases = false" />
  </section>
</template>

<style scoped>
.proof {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-2);
}
.head {
  gap: var(--gap-2) var(--gap-3);
}
.ways {
  margin-inline-start: auto;
}
.head b::first-letter {
  text-transform: uppercase;
}
.head b {
  display: inline-block;
}
.passed {
  color: var(--moss);
}
.failed {
  color: var(--raspberry);
}
.looks {
  display: flex;
  flex-wrap: wrap;
  gap: var(--gap-3);
}
.cases,
.steps {
  display: grid;
  gap: var(--gap-2);
  margin: 0;
  padding: 0;
  list-style: none;
}
.cases {
  margin-bottom: var(--gap-3);
}
.cases > li {
  padding-inline-start: var(--gap-3);
  border-inline-start: 3px solid var(--edge);
  color: inherit;
}
.cases > .passed {
  border-color: var(--moss);
}
.cases > .failed {
  border-color: var(--raspberry);
}
.verdict {
  color: var(--quiet);
}
.failed > .verdict {
  color: var(--raspberry);
}
.steps {
  gap: 2px;
}
.steps li {
  display: grid;
  grid-template-columns: 56px minmax(0, 1fr) 64px;
  gap: var(--gap-2);
  color: var(--ink);
  overflow-wrap: anywhere;
}
.time {
  text-align: end;
}
</style>

<script setup lang="ts">
import { ElButton, ElPopconfirm, ElProgress, ElTable, ElTableColumn } from 'element-plus'
import { jStat } from 'jstat'
import { computed, ref } from 'vue'
import { RouterLink } from 'vue-router'
import { type Signal, signalWords } from '#core/line'
import { type Proof, type Step, wordingStep } from '#core/proof'
import { isTooEarly } from '#core/results'
import { spotName } from '#core/spot'
import { barsOf, isUneven, judge, judgementWords, type Trial, type WordingCount } from '#core/trial'
import { shownMoment, vHint } from '../../controls'
import { proofsOf, useLive, useWorkspace } from '../../data'
import Changes from '../../controls/Changes.vue'
import SignalArm from '../../line/SignalArm.vue'
import RehearseButton from '../../rehearsal/RehearseButton.vue'
import { useRehearsal } from '../../rehearsal/store'
import RateBar from '../RateBar.vue'
import { hasRoom, useTrials } from './trials'
import { stacked } from '../../controls'

/** One trial: what each wording brought, what that says, and how it is ended. */
const { trial } = defineProps<{ trial: Trial }>()
const workspace = useWorkspace()
const trials = useTrials()
const rehearsal = useRehearsal()
const spots = computed(() => workspace.spotsOf(trial.form).filter(({ id }) => id === trial.spot))
const counts = computed(() => trials.countsOf(trial))
const judgement = computed(() => judge(trial.plan, counts.value))
const nameOf = (version: number) => trial.wordings.find((one) => one.version === version)?.name ?? `version ${version}`
const sentence = computed(() => judgementWords(judgement.value, nameOf, trial.ended !== undefined))
const better = computed(() => (judgement.value.kind === 'better' ? judgement.value.version : null))
const isOver = computed(() => judgement.value.kind === 'better' || judgement.value.kind === 'alike')
const uneven = computed(() => isUneven(counts.value, (x, degrees) => jStat.chisquare.cdf(x, degrees)))
const place = computed(() => {
  const spot = workspace.spot(trial.spot)
  return spot === null ? 'A spot that is gone' : spotName(spot, workspace.sites)
})
const keepsRoom = computed(() => {
  const spot = workspace.spot(trial.spot)
  return spot !== null && hasRoom(spot, workspace.site(spot.site))
})
/** The wording with the fewest views decides how far it is. */
const done = computed(() =>
  Math.min(100, Math.floor((Math.min(...counts.value.map(({ views }) => views)) / trial.plan.views) * 100)),
)
const shareOf = ({ signUps, views }: WordingCount) =>
  views > 0 && signUps <= views ? { count: signUps, of: views } : null
/** Bars that hold however often one looks, as the sentence does: see `barsOf`. */
const bars = computed(() =>
  counts.value.every((one) => shareOf(one) !== null && !isTooEarly(shareOf(one)!))
    ? barsOf(trial.plan, counts.value)
    : null,
)
const most = computed(() => Math.max(0, ...(bars.value ?? []).map(({ high }) => high)))
/** Since the trial began, newest first; null until they are read. */
const proofs = useLive(() => proofsOf([trial.spot]), null as Proof[] | null, [() => trial.spot])
/** What rehearsals showed of a wording last. */
const seenOf = (name: string): Step | null =>
  (proofs.value ?? [])
    .filter(({ at }) => at >= trial.startedAt)
    .toSorted((one, other) => (one.at < other.at ? 1 : -1))
    .map(({ steps }) => steps.filter((step) => step.case === 'wordings' && step.what === wordingStep(name)))
    .filter((steps) => steps.length > 0)
    .map((steps) => steps.find(({ verdict }) => verdict === 'failed') ?? steps.at(-1)!)[0] ?? null
const isGoing = computed(() => rehearsal.going.some(({ spot }) => spot === trial.spot))
const unproven = computed(() => trial.wordings.filter(({ name }) => seenOf(name)?.verdict !== 'passed'))
const rows = computed(() =>
  counts.value.map((count, at) => {
    const name = nameOf(count.version)
    return { ...count, name, bar: bars.value?.[at] ?? null, seen: seenOf(name) }
  }),
)
const signalOf = (seen: Step | null): Signal =>
  seen === null || seen.verdict === 'not-tried' ? 'ready' : seen.verdict === 'passed' ? 'proven' : 'needs-work'
type Row = (typeof rows.value)[number]
const isBusy = ref(false)
async function end(chosen: number | null): Promise<void> {
  isBusy.value = true
  await trials.end(trial, chosen)
  isBusy.value = false
}
const number = (count: number) => count.toLocaleString('en-GB')
</script>

<template>
  <section class="sheet trial" :aria-label="`Trial at ${place}`">
    <div class="head">
      <h2>{{ place }}</h2>
      <span class="quiet small">
        {{ trial.ended ? 'From' : 'Since' }} {{ shownMoment(trial.startedAt)
        }}<template v-if="trial.ended"> to {{ shownMoment(trial.ended.at) }}</template>
      </span>
    </div>
    <p class="says" :class="{ decided: isOver }" role="status">{{ sentence }}</p>
    <p v-if="uneven" class="problem">
      The wordings were not shown equally often, less so than chance explains. Something keeps one from being shown or
      counted, so do not rely on this result. Look at each wording on the page itself.
    </p>
    <ElTable v-bind="stacked" :data="rows" row-key="version" empty-text="Nothing yet.">
      <ElTableColumn label="Wording" min-width="200">
        <template #default="{ row }">
          {{ row.name }}
          <span v-if="!trial.ended" v-hint="row.seen?.seen ?? 'Nobody has rehearsed it yet.'" class="proof small">
            <SignalArm :signal="signalOf(row.seen)" :size="20" />{{ signalWords[signalOf(row.seen)] }}
          </span>
          <span v-if="trial.ended?.chosen === row.version" class="quiet small">chosen</span>
          <span v-else-if="better === row.version" class="small better">better</span>
        </template>
      </ElTableColumn>
      <ElTableColumn label="Views" align="right" width="100">
        <template #default="{ row }">{{ number(row.views) }}</template>
      </ElTableColumn>
      <ElTableColumn label="Signed up" align="right" width="110">
        <template #default="{ row }">{{ number(row.signUps) }}</template>
      </ElTableColumn>
      <ElTableColumn label="Of those who saw it" min-width="200">
        <template #default="{ row }"
          ><RateBar :count="shareOf(row as Row)" :interval="(row as Row).bar" :most="most"
        /></template>
      </ElTableColumn>
    </ElTable>
    <template v-if="!trial.ended">
      <p v-if="keepsRoom" class="quiet small">
        The page keeps room for the form as high as it was. If other words need more,
        <RouterLink :to="{ name: 'form', params: { id: trial.form, station: 'spot' } }">paste the code anew</RouterLink
        >: it now keeps room for the tallest, so that nothing moves.
      </p>
      <div class="progress">
        <ElProgress :percentage="done" aria-label="Planned views" />
        <span class="quiet small">
          {{ number(trial.plan.views) }} views of each wording are planned. You may look and end it at any time: the
          sentence above holds however often you look.
        </span>
      </div>
      <div v-if="proofs !== null && unproven.length > 0" class="row">
        <RehearseButton :spots="spots" label="Rehearse each wording" />
        <span class="quiet small">{{
          isGoing
            ? 'They are being rehearsed: how far it is stands below, at the side.'
            : `Not proven yet: ${unproven.map(({ name }) => `“${name}”`).join(', ')}.`
        }}</span>
      </div>
      <div class="row">
        <Changes>
          <template v-for="{ version, name } in trial.wordings" :key="version">
            <ElPopconfirm
              :title="`End the trial, and show “${name}” everywhere?`"
              confirm-button-text="Publish it"
              cancel-button-text="Go on"
              width="260"
              @confirm="end(version)"
            >
              <template #reference>
                <ElButton :type="better === version ? 'primary' : 'default'" :loading="isBusy"
                  >Publish “{{ name }}”</ElButton
                >
              </template>
            </ElPopconfirm>
          </template>
          <ElButton text :disabled="isBusy || undefined" @click="end(null)">End, and leave the form as it was</ElButton>
        </Changes>
      </div>
    </template>
  </section>
</template>

<style scoped>
.trial {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-3);
  padding: var(--gap-3) var(--gap-4) var(--gap-4);
}
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 0 var(--gap-3);
  align-items: baseline;
}
h2,
p {
  margin: 0;
}
.says.decided {
  font-weight: 600;
}
.better {
  color: var(--moss);
  font-weight: 600;
}
.progress {
  display: grid;
  gap: var(--gap-1);
}
.row {
  flex-wrap: wrap;
}
.proof {
  display: inline-flex;
  vertical-align: middle;
  gap: var(--gap-1);
  align-items: center;
  margin-inline-start: var(--gap-2);
  color: var(--quiet);
}
</style>

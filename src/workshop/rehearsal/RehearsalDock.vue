<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed, onBeforeUnmount, useTemplateRef, watch } from 'vue'
import { RouterLink } from 'vue-router'
import { countsOf, type Proof, verdictWords, viewerOf } from '#core/proof'
import { spotName } from '#core/spot'
import type { SpotId } from '#core/ids'
import GoingRehearsal from './GoingRehearsal.vue'
import { stationNames } from '#core/station'
import { useWorkspace } from '../data'
import { shownDuration } from './signals'
import { useRehearsal } from './store'

/** The rehearsals that go on, wherever their owner looks meanwhile: how far they are, and the page itself; then the outcome. */
const rehearsal = useRehearsal()
const workspace = useWorkspace()
const stage = useTemplateRef('stage')
watch(stage, (element) => (rehearsal.host = element), { immediate: true })
onBeforeUnmount(() => (rehearsal.host = null))

const nameOf = (id: SpotId) => {
  const spot = workspace.spot(id)
  return spot === null ? 'A spot' : spotName(spot, workspace.sites)
}
const count = (wanted: Proof['verdict']) => rehearsal.round.filter(({ verdict }) => verdict === wanted).length
/** The worst of it in two words. */
const summary = computed(() => {
  const worst = (['failed', 'stopped', 'not-tried', 'passed'] as const).find((verdict) => count(verdict) > 0)
  return worst === undefined ? '' : `${count(worst)} ${verdictWords[worst]}`
})

function outcome(proof: Proof): string {
  const step = proof.steps.find(({ verdict }) => verdict === 'failed')
  if (step !== undefined) return `failed at ${stationNames[step.station]}`
  const { notTried, passed: held } = countsOf(proof)
  if (proof.verdict === 'not-tried') return `the page is as it should be, ${notTried} not tried`
  if (proof.verdict === 'stopped') return `stopped after ${held} ${held === 1 ? 'case' : 'cases'}`
  return `${held} passed${notTried > 0 ? `, ${notTried} not tried` : ''} in ${shownDuration(proof.ms)}`
}
const formOf = (proof: Proof) => ({ name: 'form', params: { id: proof.form, station: 'spot' } })
</script>

<template>
  <aside class="dock" aria-label="Rehearsal">
    <template v-if="rehearsal.going.length > 0">
      <GoingRehearsal v-for="(one, at) in rehearsal.going" :key="one.spot" :of="one">
        <ElButton v-if="at === 0" size="small" :disabled="rehearsal.isStopping" @click="rehearsal.stop()">{{
          rehearsal.isStopping ? 'Stopping …' : 'Stop'
        }}</ElButton>
      </GoingRehearsal>
    </template>
    <template v-else>
      <header>
        <b>Rehearsed</b>
        <span class="small" :class="{ problem: count('failed') > 0 }">{{ summary }}</span>
        <ElButton size="small" @click="rehearsal.dismiss()">Close</ElButton>
      </header>
      <p v-if="rehearsal.problem" class="problem small" role="alert">It could not go on: {{ rehearsal.problem }}</p>
      <ul>
        <li v-for="proof in rehearsal.round" :key="proof.id" class="small">
          <RouterLink :to="formOf(proof)">{{ nameOf(proof.spot) }}</RouterLink>
          <span :class="proof.verdict === 'failed' ? 'problem' : 'quiet'">{{ outcome(proof) }}</span>
        </li>
      </ul>
    </template>
    <div v-show="rehearsal.going.length > 0 && rehearsal.isFraming" ref="stage" class="stage" aria-hidden="true"></div>
    <div v-if="rehearsal.going.length > 0 && rehearsal.picture" class="stage" aria-hidden="true">
      <img :src="rehearsal.picture.address" :class="{ narrow: viewerOf(rehearsal.picture.viewer).isTouch }" alt="" />
    </div>
  </aside>
</template>

<style scoped>
.dock {
  position: fixed;
  inset: auto var(--gap-4) var(--gap-4) auto;
  z-index: 1500;
  display: grid;
  gap: var(--gap-2);
  width: min(360px, calc(100vw - 2 * var(--gap-3)));
  max-height: calc(100vh - 90px);
  padding: var(--gap-3) var(--gap-4);
  overflow: auto;
  border: 1px solid var(--edge);
  border-radius: var(--corner);
  background: var(--sheet);
  box-shadow: var(--shadow);
}
header {
  display: flex;
  align-items: baseline;
  gap: var(--gap-2);
}
header b {
  flex: 1;
}
ul {
  display: grid;
  gap: var(--gap-2);
  margin: 0;
  padding: 0;
  list-style: none;
}
ul li {
  display: grid;
  line-height: 1.3;
}
/* The page at its own width, drawn smaller. */
.stage {
  position: relative;
  height: 200px;
  overflow: hidden;
  border: 1px solid var(--hairline);
  background: var(--sunken);
}
.stage img {
  display: block;
  width: 100%;
}
.stage img.narrow {
  width: auto;
  height: 100%;
  margin: 0 auto;
}
.stage :deep(iframe) {
  position: absolute;
  inset: 0 auto auto 0;
  border: 0;
  background: #fff;
  transform: scale(calc(326 / 1024));
  transform-origin: 0 0;
}
.stage :deep(iframe[width='360']) {
  inset-inline-start: 105px;
}
</style>

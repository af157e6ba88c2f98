<script setup lang="ts">
import { ElButton, ElCollapse, ElCollapseItem } from 'element-plus'
import { computed, ref } from 'vue'
import { RouterLink } from 'vue-router'
import type { Finding } from '#core/checkup'
import { addressProblem } from '#core/site'
import type { ListId } from '#core/ids'
import { type Evidence, onwardStep, type Proof, type Step } from '#core/proof'
import { spotName } from '#core/spot'
import { stationNames } from '#core/station'
import { shownMoment } from '../controls'
import { useWorkspace } from '../data'
import Findings from '../controls/Findings.vue'
import CodeOfSpot from '../form/spot/CodeOfSpot.vue'
import { mendedSince } from './again'
import PageLook from './PageLook.vue'
import RehearseButton from './RehearseButton.vue'

/**
 * Where a rehearsal failed: what was expected, what happened, the likely cause, and the way to mend it. Once it was put right,
 * a line away from its station.
 */
const {
  proof,
  step,
  isElsewhere = false,
  findings = [],
} = defineProps<{
  proof: Proof
  step: Step
  /** Whether another station is in hand than the one that it failed at. */
  isElsewhere?: boolean
  /** Of the form’s checkup, with its mends. */
  findings?: readonly Finding[]
}>()
const workspace = useWorkspace()
const spot = computed(() => workspace.spot(proof.spot))
const evidenceNames: Record<Evidence['kind'], string> = {
  markup: 'On the page',
  request: 'What was sent',
  response: 'What came back',
  member: 'What the list knows',
}
/** What was put right in this tab since it failed. */
const mended = computed(() =>
  mendedSince(proof.at, [proof.spot, ...(handedOn.value?.connection ? [handedOn.value.connection.id] : [])]),
)
const isOpened = ref(false)
const isFolded = computed(() => mended.value !== null && isElsewhere && !isOpened.value)
/** What the checkup can put right by one press, of what could not be read. */
const mends = computed(() =>
  step.failure?.code === 'faint' && step.failure.at === 'form'
    ? findings.filter(({ code }) => code.startsWith('contrast'))
    : [],
)
const page = computed(() => {
  const address = spot.value === null ? '' : spot.value.page || (workspace.site(spot.value.site)?.address ?? '')
  return addressProblem(address) === null ? address : null
})
const list = computed(() => workspace.list(workspace.form(proof.form)?.list ?? ('' as ListId)))
const toList = computed(() =>
  list.value === null
    ? { to: station('list'), words: 'To the form’s list' }
    : { to: { name: 'list', params: { id: list.value.id } }, words: `To “${list.value.name}”` },
)
/** The place that the step was about, of those that the list is handed on to. */
const handedOn = computed(() =>
  workspace
    .handOversOf(list.value?.id ?? ('' as ListId))
    .map((handOver) => ({ handOver, connection: workspace.connection(handOver.connection) }))
    .find(({ handOver, connection }) => step.what === onwardStep(handOver.target?.name ?? connection?.name ?? '')),
)
const way = computed(() => {
  switch (step.failure?.at) {
    case 'settings':
      return { to: { name: 'settings' }, words: 'To the settings' }
    case 'site':
      return { to: { name: 'sites' }, words: 'To the sites' }
    case 'hand-over':
    case 'connection': {
      const { handOver, connection } = handedOn.value ?? {}
      if (step.failure.at === 'connection' && connection)
        return {
          to: { name: 'connections', params: { id: connection.id } },
          words: `To the connection “${connection.name}”`,
        }
      return handOver === undefined
        ? toList.value
        : {
            to: { name: 'hand-over', params: { id: handOver.list, handOver: handOver.id } },
            words: 'To what goes along',
          }
    }
    case 'list':
      return toList.value
    case 'form':
      return { to: station('form'), words: 'To the form' }
    case 'mail':
      return { to: station('mail'), words: 'To the mail' }
    case 'answer':
      return { to: station('answer'), words: 'To the answers' }
    default:
      return { to: station('spot'), words: 'To the spot and its code' }
  }
})
function station(name: string) {
  return { name: 'form', params: { id: proof.form, station: name } }
}
</script>

<template>
  <p v-if="step.failure && isFolded" class="failure folded">
    <span>
      {{ stationNames[step.station] }}: {{ step.what }}. <span class="quiet">Since it failed, {{ mended }}.</span>
    </span>
    <ElButton link @click="isOpened = true">What happened</ElButton>
    <RehearseButton v-if="spot" :spots="[spot]" label="Rehearse again" />
  </p>
  <section v-else-if="step.failure" class="failure" :aria-label="`Failed at ${stationNames[step.station]}`">
    <h3>
      {{ stationNames[step.station] }}: {{ step.what }}
      <span class="quiet small">{{ spot ? spotName(spot, workspace.sites) : '' }}, {{ shownMoment(proof.at) }}</span>
    </h3>
    <div class="told">
      <dl>
        <dt>Expected</dt>
        <dd>{{ step.failure.expected }}</dd>
        <dt>Happened</dt>
        <dd>{{ step.failure.happened }}</dd>
        <dt>Likely cause</dt>
        <dd>{{ step.failure.cause }}</dd>
        <dt>What to do</dt>
        <dd>
          {{ step.failure.mend }}
          <span class="ways">
            <RouterLink :to="way.to">{{ way.words }}</RouterLink>
            <a v-if="step.failure.at === 'page' && page" :href="page" target="_blank" rel="noreferrer">Open the page</a>
            <CodeOfSpot v-if="step.failure.spot" :spot="step.failure.spot" />
          </span>
          <Findings :findings="[...mends]" />
          <p v-if="mended" class="again">
            Since then, {{ mended }}. <RehearseButton v-if="spot" :spots="[spot]" label="Rehearse again" />
          </p>
        </dd>
      </dl>
      <PageLook v-if="step.look" :look="step.look" is-failed />
    </div>
    <ElCollapse v-if="step.failure.evidence.length > 0">
      <ElCollapseItem v-for="(one, at) in step.failure.evidence" :key="at" :title="evidenceNames[one.kind]">
        <pre tabindex="0">{{ one.text }}</pre>
      </ElCollapseItem>
    </ElCollapse>
  </section>
</template>

<style scoped>
.failure {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-2);
  padding: var(--gap-3) var(--gap-4);
  border-inline-start: 4px solid var(--raspberry);
  background: var(--raspberry-wash);
}
.folded {
  display: flex;
  flex-wrap: wrap;
  gap: var(--gap-2) var(--gap-3);
  align-items: center;
  justify-content: space-between;
  margin: 0;
  padding: var(--gap-2) var(--gap-4);
}
.folded > span {
  flex: 1;
}
.again {
  margin: var(--gap-2) 0 0;
}
.told {
  --look-height: 168px;

  display: flex;
  flex-wrap: wrap;
  gap: var(--gap-3) var(--gap-5);
  align-items: start;
}
.told > dl {
  flex: 1 1 360px;
}
h3 span {
  margin-inline-start: var(--gap-2);
  font-weight: 400;
}
dl {
  display: grid;
  grid-template-columns: max-content minmax(0, 1fr);
  gap: var(--gap-1) var(--gap-4);
  margin: 0;
  overflow-wrap: anywhere;
}
dt {
  color: var(--quiet);
}
.ways {
  display: inline-flex;
  gap: var(--gap-3);
  margin-inline-start: var(--gap-2);
  font-weight: 600;
}
pre {
  max-height: 260px;
  margin: 0;
  padding: var(--gap-2);
  overflow: auto;
  background: var(--sunken);
  font-size: 0.8125rem;
  white-space: pre-wrap;
  overflow-wrap: anywhere;
}
.failure :deep(.el-collapse),
.failure :deep(.el-collapse-item__header),
.failure :deep(.el-collapse-item__wrap) {
  background: transparent;
}
@media (max-width: 560px) {
  dl {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>

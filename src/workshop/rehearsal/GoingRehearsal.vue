<script setup lang="ts">
import { ElProgress } from 'element-plus'
import { computed } from 'vue'
import { messagesInUse } from '#core/mail'
import { caseIds, caseName, nameFields, type RehearsalCase } from '#core/proof'
import { spotName } from '#core/spot'
import RisingArms from './RisingArms.vue'
import { lowerFirst } from '../controls'
import { useWorkspace } from '../data'
import { risenSignals } from './signals'
import { type Rehearsing, useRehearsal } from './store'

/** One spot whose rehearsal goes on: how far it is, and what was seen last. */
const { of: one } = defineProps<{ of: Rehearsing }>()
const rehearsal = useRehearsal()
const workspace = useWorkspace()
const spot = computed(() => workspace.spot(one.spot))
const signals = computed(() => risenSignals(one.steps))
const newest = computed(() => one.steps.at(-1))
/** Of what was asked for, how much has begun. */
const order = computed(() => {
  const version = spot.value === null ? null : workspace.latestVersion(spot.value.form)
  const mail = version === null ? null : (workspace.mail(version.list)?.published ?? null)
  // What this spot has nothing to try of is none of its cases.
  const applies: Partial<Record<RehearsalCase, boolean>> = {
    elsewhere: spot.value?.kind === 'pop-up',
    wordings: workspace.trials.some((trial) => trial.spot === one.spot && trial.ended === undefined),
    names: version !== null && nameFields(version.content).length > 0,
    mail: mail !== null && messagesInUse(mail).length > 0,
  }
  return ['page', ...caseIds.filter((each) => rehearsal.cases.includes(each) && (applies[each] ?? true))]
})
const reached = computed(() => (newest.value === undefined ? 0 : order.value.indexOf(newest.value.case) + 1))
const all = computed(() => order.value.length)
</script>

<template>
  <section :aria-label="spot === null ? 'A spot' : spotName(spot, workspace.sites)">
    <header>
      <b>{{ spot === null ? 'A spot' : spotName(spot, workspace.sites) }}</b>
      <span v-if="one.of > 1" class="quiet small">{{ one.number }} of {{ one.of }}</span>
      <slot />
    </header>
    <RisingArms :signals="signals" />
    <ElProgress
      aria-label="How far it is"
      :percentage="Math.round((100 * reached) / all)"
      :show-text="false"
      :stroke-width="4"
    />
    <p class="small newest" role="status">
      <span class="quiet counter">{{ reached }} of {{ all }}</span>
      {{ newest ? `${caseName(newest.case)}: ${lowerFirst(newest.what)}` : 'The page is fetched …' }}
    </p>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: var(--gap-2);
}
header {
  display: flex;
  align-items: baseline;
  gap: var(--gap-2);
}
header b {
  flex: 1;
}
.counter {
  margin-inline-end: var(--gap-1);
}
.newest {
  min-height: 2.6em;
  line-height: 1.3;
}
</style>

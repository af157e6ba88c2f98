<script setup lang="ts">
import { ExternalLink } from '@lucide/vue'
import { computed } from 'vue'
import { signalWords, type StationState } from '#core/line'
import { type Spot, spotKinds } from '#core/spot'
import { stationNames } from '#core/station'
import { shownPage, vHint } from '../../controls'
import { useWorkspace } from '../../data'
import SignalArm from '../../line/SignalArm.vue'
import Curve from '../../results/Curve.vue'
import { useRhythm } from '../../results/rhythm'
import { useWaiting } from '../../sync'

/** The head of a spot: where it is, how it stands, and how it does. */
const { spot } = defineProps<{
  spot: Spot
  /** Of this spot, where its form has several. */
  line: readonly StationState[]
  state: string
  /** The page on which it is seen; null where none is known. */
  opensAt: string | null
  isPublished: boolean
}>()
const workspace = useWorkspace()
const waiting = useWaiting()
const rhythms = useRhythm()
const site = computed(() => workspace.site(spot.site))
const kindName = computed(() => spotKinds.find(({ kind }) => kind === spot.kind)?.name.toLowerCase() ?? spot.kind)
/** How it does beside its own other weeks: where there are several, each by itself. */
const rhythm = computed(() => rhythms.ofSpot(spot))
</script>

<template>
  <div>
    <header class="row">
      <h2>
        {{ site?.name ?? 'No site' }} <span class="quiet kind">{{ kindName }} · {{ state }}</span>
      </h2>
      <span v-if="isPublished && waiting.isWaiting('spot', spot.id)" class="quiet small" role="status"
        >not saved at the receiver yet</span
      >
      <a v-if="opensAt" :href="opensAt" target="_blank" rel="noreferrer"
        >{{ shownPage(opensAt) }} <ExternalLink :size="14" aria-hidden="true"
      /></a>
    </header>
    <p v-if="rhythm && line.length" class="small week">
      <Curve :counts="rhythm.last" />
      <span
        >{{ rhythm.week }} joined here in 7 days<template v-if="rhythm.words">, {{ rhythm.words }}</template></span
      >
    </p>
    <ol v-if="line.length" class="signals" aria-label="The line of this spot">
      <li v-for="one in line" :key="one.station" v-hint="one.reason">
        <SignalArm :signal="one.signal" :size="26" />
        <span
          >{{ stationNames[one.station] }}
          <span class="state" :class="one.signal">{{ signalWords[one.signal] }}</span></span
        >
      </li>
    </ol>
  </div>
</template>

<style scoped>
header {
  justify-content: space-between;
  overflow-wrap: anywhere;
}
.week {
  display: flex;
  flex-wrap: wrap;
  gap: 0 var(--gap-3);
  align-items: center;
}
.signals {
  display: flex;
  flex-wrap: wrap;
  gap: var(--gap-1) var(--gap-4);
  margin: var(--gap-2) 0 0;
  padding: 0;
  list-style: none;
  font-size: var(--text-s);
}
.signals li {
  display: flex;
  align-items: center;
  gap: var(--gap-1);
}
.state {
  color: var(--quiet);
}
.state.needs-work,
.state.changed {
  color: var(--raspberry);
}
.state.proven {
  color: var(--moss);
}
.kind {
  margin-inline-start: var(--gap-2);
  font-size: var(--text-s);
  font-weight: 400;
}
</style>

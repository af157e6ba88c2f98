<script setup lang="ts">
import { ArrowRight } from '@lucide/vue'
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import { placeOf, type HandOver } from '#core/connection'
import { onwardStates, signalWords } from '#core/line'
import type { List } from '#core/list'
import type { Proof } from '#core/proof'
import Changes from '../controls/Changes.vue'
import ShareBar from '../charts/ShareBar.vue'
import { vHint } from '../controls'
import { useWorkspace } from '../data'
import SignalArm from '../line/SignalArm.vue'
import { useOnward, useOutside } from '.'

/** Where the people of a list go on to, and how that stands. */
const { list, proofs = null } = defineProps<{
  list: List
  /** Of a form that feeds it: how far each place is proven by them. */
  proofs?: readonly Proof[] | null
}>()
const workspace = useWorkspace()
const outside = useOutside()
const onward = useOnward()
const states = computed(() => (proofs === null ? [] : onwardStates(onward.of(list.id), proofs)))
const rows = computed(() =>
  workspace.handOversOf(list.id).flatMap((handOver) => {
    const connection = workspace.connection(handOver.connection)
    if (connection === null) return []
    const standing = outside.handOver(handOver.id)
    return [
      {
        handOver,
        name: handOver.target === null ? connection.name : `${handOver.target.name}, ${placeOf(connection.way)}`,
        trouble: outside.trouble(handOver),
        standing,
      },
    ]
  }),
)
const stateOf = (handOver: HandOver) =>
  states.value.find(
    ({ name }) => name === (handOver.target?.name ?? workspace.connection(handOver.connection)?.name),
  ) ?? null
</script>

<template>
  <section class="sheet onward" aria-labelledby="onward-title">
    <div class="head">
      <h2 id="onward-title">Where it is handed on</h2>
      <RouterLink v-slot="{ navigate }" custom :to="{ name: 'hand-on', params: { id: list.id } }">
        <Changes>
          <ElButton size="small" @click="navigate()">Hand this list on</ElButton>
        </Changes>
      </RouterLink>
    </div>
    <p v-if="rows.length === 0" class="quiet small">
      Its people are kept here alone. If your letters are sent by a service, each sign-up can be handed on to its list.
    </p>
    <ul v-else>
      <li v-for="{ handOver, name, trouble, standing } in rows" :key="handOver.id">
        <ArrowRight :size="16" aria-hidden="true" />
        <SignalArm
          v-if="stateOf(handOver)"
          v-hint="stateOf(handOver)!.reason"
          :signal="stateOf(handOver)!.signal"
          :size="26"
        />
        <RouterLink :to="{ name: 'hand-over', params: { id: list.id, handOver: handOver.id } }">{{ name }}</RouterLink>
        <span v-if="stateOf(handOver)" class="small" :class="stateOf(handOver)!.signal">{{
          signalWords[stateOf(handOver)!.signal]
        }}</span>
        <span v-if="handOver.isPaused" class="quiet small">paused</span>
        <span v-else-if="trouble" class="problem small">{{ trouble }}</span>
        <ShareBar
          v-if="standing && standing.there + standing['to-confirm'] + standing.waiting + standing.refused > 0"
          class="share"
          :parts="[
            { name: 'done', count: standing.there + standing['to-confirm'] },
            { name: 'waiting', count: standing.waiting },
            { name: 'bad', count: standing.refused },
          ]"
        />
        <span v-if="standing" class="quiet small counts"
          >{{ standing.there }} there<template v-if="standing['to-confirm'] > 0"
            >, {{ standing['to-confirm'] }} to confirm there</template
          ><template v-if="standing.waiting > 0">, {{ standing.waiting }} on their way</template
          ><template v-if="standing.refused > 0"
            >, <span class="problem">{{ standing.refused }} refused</span></template
          ></span
        >
      </li>
    </ul>
  </section>
</template>

<style scoped>
.onward {
  display: grid;
  gap: var(--gap-2);
  padding: var(--gap-3) var(--gap-4);
}
.head,
li {
  display: flex;
  gap: var(--gap-3);
  align-items: center;
}
.head {
  justify-content: space-between;
}
h2,
p {
  margin: 0;
}
h2 {
  font-size: var(--text-l);
}
ul {
  display: grid;
  gap: var(--gap-2);
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  flex-wrap: wrap;
}
.proven {
  color: var(--moss);
}
.needs-work {
  color: var(--raspberry);
}
.share {
  width: 120px;
  margin-inline-start: auto;
}
</style>

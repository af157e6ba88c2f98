<script setup lang="ts">
import { Check, Minus, X } from '@lucide/vue'
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import { abilitiesOf } from '#core/connection'
import type { NewHandOver } from './new-hand-over'
import { reasonFor } from '.'

/** One made-up person goes to the service, is looked up there, and taken off again. */
const { inHand } = defineProps<{ inHand: NewHandOver }>()
const { tried, isBusy, isReady } = inHand
/** A form can add and never take off: said before anybody is sent. */
const leavesOne = computed(() => inHand.way.value !== null && !abilitiesOf(inHand.way.value).takesOff)
const stepNames = {
  put: 'Went there',
  seen: 'Looked up there',
  absent: 'Somebody who is not there is not found',
  off: 'Taken off again',
}
</script>

<template>
  <section class="trial" aria-labelledby="trial-title">
    <h2 id="trial-title">Try it</h2>
    <div class="row">
      <ElButton :disabled="!isReady" :loading="isBusy" @click="inHand.tryIt()">Send one made-up person</ElButton>
      <span v-if="leavesOne" class="problem small"
        >A form takes nobody off: this one stays on the real list until you take it off there. It is from a made-up
        address, which gets no mail.</span
      >
      <span v-else class="quiet small"
        >Who is looked up there and taken off again. It also shows whether the key may add people: until then it is only
        known to read.</span
      >
    </div>
    <ol v-if="tried" :aria-label="`What became of ${tried.email}`">
      <li
        v-for="{ step, isDone, means, said } in tried.steps"
        :key="step"
        :class="{ problem: !isDone && means !== 'cannot' }"
      >
        <component :is="isDone ? Check : means === 'cannot' ? Minus : X" :size="16" aria-hidden="true" />
        <span
          ><strong>{{ stepNames[step] }}</strong>
          {{ step === 'seen' || means === 'cannot' ? said : isDone ? '' : reasonFor({ means, said }) }}</span
        >
      </li>
    </ol>
  </section>
</template>

<style scoped>
.trial {
  display: grid;
  gap: var(--gap-3);
}
h2 {
  margin: 0;
}
ol {
  display: grid;
  gap: var(--gap-2);
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  gap: var(--gap-2);
  align-items: baseline;
}
li svg {
  flex: none;
  transform: translateY(3px);
}
</style>

<script setup lang="ts">
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import { serviceHostOf } from '#core/form'
import type { FormId } from '#core/ids'
import { useWorkspace } from '../data'
import Curve from './Curve.vue'
import { useRhythm } from './rhythm'

/** What one form brought of late: a curve, a sentence, and the way to all of it. */
const { form } = defineProps<{ form: FormId }>()
const rhythms = useRhythm()
const workspace = useWorkspace()
const isTrying = computed(() => workspace.trials.some((one) => one.form === form && one.ended === undefined))
const service = computed(() => serviceHostOf(workspace.form(form)?.draft ?? {}))
const rhythm = computed(() => rhythms.of(form))
</script>

<template>
  <p class="small">
    <span v-if="service !== null" class="quiet">Who signs up by it is counted at {{ service }}.</span>
    <template v-else-if="rhythm">
      <Curve :counts="rhythm.last" />
      <span
        >{{ rhythm.week }} joined in 7 days<template v-if="rhythm.words">, {{ rhythm.words }}</template></span
      >
      <span v-if="rhythm.quiet" class="problem">It has fallen quiet: {{ rhythm.quiet }}.</span>
      <RouterLink :to="{ name: 'results', query: { form } }">Its results</RouterLink>
      <RouterLink :to="{ name: 'trials', params: { id: form } }">{{
        isTrying ? 'Its trial of wordings' : 'Try other words'
      }}</RouterLink>
    </template>
  </p>
</template>

<style scoped>
p {
  display: flex;
  flex-wrap: wrap;
  gap: var(--gap-1) var(--gap-3);
  align-items: center;
  min-height: 24px;
  margin: 0 0 var(--gap-2);
}
</style>

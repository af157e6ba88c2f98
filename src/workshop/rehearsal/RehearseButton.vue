<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed, defineAsyncComponent, ref } from 'vue'
import type { Spot } from '#core/spot'
import { vHint } from '../controls'
import { useReceiver } from '../sync'
import { useRehearsal } from './store'

/** Rehearses the spots that it is given. */
const { spots, label = 'Rehearse' } = defineProps<{ spots: readonly Spot[]; label?: string }>()
const DirectRehearsal = defineAsyncComponent(() => import('./DirectRehearsal.vue'))
const rehearsal = useRehearsal()
const ready = computed(() => rehearsal.rehearsable(spots))
/** Where somebody would stay, and their owner is asked before. */
const direct = computed(() => rehearsal.direct(spots))
const isAsking = ref(false)
const receiver = useReceiver()
const isIdle = computed(
  () => !receiver.looksOn && rehearsal.going.length === 0 && ready.value.length + direct.value.length > 0,
)
const why = computed(() =>
  receiver.looksOn
    ? 'Your key looks on.'
    : rehearsal.going.length > 0
      ? 'A rehearsal goes on.'
      : ready.value.length > 0
        ? 'A made-up person goes the whole way: page, form, answer, mail, list. Nothing of it stays in the list.'
        : direct.value.length > 0
          ? 'Somebody fills the form in on its page and reads what the service answers. You are asked before.'
          : 'Nothing can be rehearsed: a spot has to be live, and its form published.',
)
const begin = () => {
  if (ready.value.length > 0) void rehearsal.start(ready.value)
  else isAsking.value = true
}
</script>

<template>
  <ElButton v-hint="why" :disabled="!isIdle" @click="begin">{{ label }}</ElButton>
  <DirectRehearsal v-if="isAsking" :spots="direct" @close="isAsking = false" />
</template>

<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import type { Spot } from '#core/spot'
import { vHint } from '../controls/hint'
import { useRehearsal } from './store'

/** Rehearses the spots that it is given. */
const { spots, label = 'Rehearse' } = defineProps<{ spots: readonly Spot[]; label?: string }>()
const rehearsal = useRehearsal()
const ready = computed(() => rehearsal.rehearsable(spots))
const why = computed(() =>
  rehearsal.going.length > 0
    ? 'A rehearsal goes on.'
    : ready.value.length === 0
      ? 'Nothing can be rehearsed: a spot has to be live, and its form published, and come to Ask Box.'
      : 'A made-up person goes the whole way: page, form, answer, mail, list. Nothing of it stays in the list.',
)
</script>

<template>
  <ElButton v-hint="why" :disabled="rehearsal.going.length > 0 || ready.length === 0" @click="rehearsal.start(ready)">{{
    label
  }}</ElButton>
</template>

<script setup lang="ts">
import { ElRadio, ElRadioGroup } from 'element-plus'
import { peopleCount } from '../lists'
import type { NewHandOver } from './new-hand-over'

/** The lists that a service has, by name, with how many are on each. */
const { inHand } = defineProps<{ inHand: NewHandOver }>()
const { lists, target } = inHand
</script>

<template>
  <section class="lists" aria-labelledby="their-title">
    <h2 id="their-title">Into which of its lists</h2>
    <p v-if="lists?.length === 0" class="problem">There is no list there yet. Make one there first, then look again.</p>
    <ElRadioGroup
      v-else
      :model-value="target ?? ''"
      name="their-list"
      aria-label="Into which of its lists"
      @update:model-value="inHand.chooseTarget(String($event))"
    >
      <ElRadio v-for="list in lists" :key="list.id" :value="list.id" border
        >{{ list.name }}
        <span v-if="list.count !== null" class="quiet small">{{ peopleCount(list.count) }}</span></ElRadio
      >
    </ElRadioGroup>
  </section>
</template>

<style scoped>
.lists {
  display: grid;
  gap: var(--gap-3);
}
h2,
p {
  margin: 0;
}
</style>

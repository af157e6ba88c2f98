<script setup lang="ts">
import { Check, Circle } from '@lucide/vue'
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import { useReceiverState } from './receiver-state'

/** What a real Ask Box still lacks, ticked off as it is done; nothing once all of it is there, or where pretend sites stand in. */
const { wants } = useReceiverState()
const isShown = computed(() => wants.value.length > 0 && wants.value.some(({ isDone }) => !isDone))
</script>

<template>
  <section v-if="isShown" aria-labelledby="needed-title">
    <h2 id="needed-title">Still to set up</h2>
    <ul>
      <li v-for="one in wants" :key="one.name" :class="{ done: one.isDone }">
        <Check v-if="one.isDone" :size="18" aria-label="done" />
        <Circle v-else :size="18" aria-label="to do" />
        <span>
          <RouterLink v-if="!one.isDone" :to="one.to">{{ one.name }}</RouterLink>
          <template v-else>{{ one.name }}</template>
          <span v-if="!one.isDone" class="quiet small">{{ one.why }}</span>
        </span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
h2 {
  margin-bottom: var(--gap-2);
}
ul {
  display: grid;
  gap: var(--gap-2);
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  grid-template-columns: 24px minmax(0, 1fr);
  line-height: 1.35;
}
li > span {
  display: grid;
}
.done {
  color: var(--quiet);
}
.done svg {
  color: var(--moss);
}
</style>

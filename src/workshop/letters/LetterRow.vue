<script setup lang="ts">
import type { Component } from 'vue'
import { type RouteLocationRaw, RouterLink } from 'vue-router'

/** One of the rows in Letters: its title, whom it goes to, and how it stands in the slot. */
defineProps<{ icon: Component; to: RouteLocationRaw; title: string; lists: string }>()
</script>

<template>
  <li>
    <RouterLink class="sheet one" :to="to">
      <component :is="icon" :size="18" aria-hidden="true" />
      <b>{{ title }}</b>
      <span class="quiet small">{{ lists }}</span>
      <span class="small"><slot /></span>
    </RouterLink>
  </li>
</template>

<style scoped>
li {
  list-style: none;
}
.one {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr) minmax(0, 14rem) minmax(0, 23rem);
  gap: 2px var(--gap-3);
  align-items: center;
  padding: var(--gap-3) var(--gap-4);
  color: inherit;
  text-decoration: none;
  overflow-wrap: anywhere;
}
.one:hover {
  border-color: var(--moss);
}
.one svg {
  color: var(--quiet);
}
@media (max-width: 700px) {
  .one {
    grid-template-columns: auto minmax(0, 1fr);
  }
  .one > span {
    grid-column: 2;
  }
}
</style>

<script setup lang="ts">
import { RouterLink } from 'vue-router'

/** A page of many sections, or one of several pages, with the index of all of them at its side. */
defineProps<{
  label: string
  items: readonly {
    name: string
    /** A place in this page, such as `#backups`, or another page. */
    to: string
    isCurrent?: boolean
  }[]
}>()
</script>

<template>
  <div class="indexed">
    <nav :aria-label="label">
      <ul>
        <li v-for="{ name, to, isCurrent } in items" :key="to">
          <a v-if="to.startsWith('#')" :href="to">{{ name }}</a>
          <RouterLink v-else v-slot="{ href, navigate }" custom :to="to"
            ><a :href="href" :aria-current="isCurrent ? 'page' : undefined" @click="navigate">{{ name }}</a></RouterLink
          >
        </li>
      </ul>
    </nav>
    <slot />
  </div>
</template>

<style scoped>
.indexed {
  display: grid;
  grid-template-columns: 220px minmax(0, 820px);
  gap: var(--gap-6);
  align-items: start;
}
nav {
  position: sticky;
  top: var(--gap-4);
}
ul {
  margin: 0;
  padding: 0;
  border-inline-start: 3px solid var(--hairline);
  list-style: none;
}
a {
  display: block;
  margin-inline-start: -3px;
  padding: var(--gap-1) var(--gap-3);
  border-inline-start: 3px solid transparent;
  color: var(--quiet);
  text-decoration: none;
}
a:hover {
  color: var(--ink);
  text-decoration: underline;
}
a[aria-current] {
  border-inline-start-color: var(--moss);
  color: var(--ink);
  font-weight: 600;
}
@media (max-width: 900px) {
  .indexed {
    grid-template-columns: minmax(0, 1fr);
    gap: var(--gap-5);
  }
  nav {
    position: static;
  }
}
</style>

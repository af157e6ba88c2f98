<script setup lang="ts">
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import type { List } from '#core/list'
import ListFeeds from './ListFeeds.vue'
import ListGrowth from './ListGrowth.vue'
import { useMembers } from '../people'

/** One list as its owner wants to see it: how many are on it, how it grew, what feeds it, what it sends. */
const { list } = defineProps<{ list: List }>()
const members = useMembers()
const counts = computed(() => members.countsOf(list.id))
/** In columns, so that lists are compared: what is nobody is left empty. */
const standing = computed(() => {
  const { confirmed = 0, waiting = 0, left = 0, removed = 0, bounced = 0 } = counts.value ?? {}
  return [
    { name: 'to confirm', count: waiting },
    { name: 'gone', count: left + removed + bounced },
    { name: 'on the list', count: confirmed },
  ]
})
</script>

<template>
  <li class="sheet">
    <div class="about">
      <h2>
        <RouterLink :to="{ name: 'list', params: { id: list.id } }">{{ list.name }}</RouterLink>
      </h2>
      <ListFeeds :list="list" />
    </div>
    <dl v-if="counts">
      <div v-for="{ name, count } in standing" :key="name" :class="{ none: count === 0 }">
        <dt>{{ name }}</dt>
        <dd>{{ count.toLocaleString('en-GB') }}</dd>
      </div>
    </dl>
    <ListGrowth :list="list" />
  </li>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto 200px;
  gap: var(--gap-5);
  align-items: center;
  min-height: 72px;
  padding: var(--gap-2) var(--gap-4);
}
h2 {
  font-size: 1.0625rem;
}
.about {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
}
dl {
  display: grid;
  grid-template-columns: repeat(3, 84px);
  margin: 0;
}
dl div {
  display: flex;
  flex-direction: column-reverse;
  text-align: end;
}
.none {
  visibility: hidden;
}
dl div:last-child {
  visibility: visible;
}
dt {
  color: var(--quiet);
  font-size: var(--text-s);
  white-space: nowrap;
}
dd {
  margin: 0;
  font-size: 1.25rem;
  font-variant-numeric: tabular-nums;
  line-height: 1.1;
}
@media (max-width: 900px) {
  li {
    grid-template-columns: minmax(0, 1fr);
    gap: var(--gap-2);
  }
  .feeds {
    white-space: normal;
  }
  dl div {
    text-align: start;
  }
}
</style>

<script setup lang="ts">
import { Rss } from '@lucide/vue'
import { ElEmpty } from 'element-plus'
import { RouterLink } from 'vue-router'
import type { Feed } from '#core/letter'
import { useWorkspace } from '../data'
import { rhythmWords } from './feed-words'
import { useLetters } from './store'

/** The feeds of sites whose posts become letters. */
const letters = useLetters()
const workspace = useWorkspace()
const stateOf = ({ published, isPaused, draft }: Feed) =>
  `${rhythmWords(draft.rhythm)}; ${published === null ? 'not begun' : isPaused ? 'paused' : draft.goesByItself ? 'goes by itself' : 'asks you first'}`
</script>

<template>
  <ElEmpty
    v-if="letters.isLoaded && letters.feeds.length === 0"
    class="sheet"
    description="No feed yet. Most sites that have posts have a feed: each new post becomes a letter, when you say yes or by itself."
  />
  <ul v-else>
    <li v-for="feed in letters.feeds" :key="feed.id">
      <RouterLink class="sheet one" :to="{ name: 'feed', params: { id: feed.id } }">
        <Rss :size="18" aria-hidden="true" />
        <b>{{ feed.draft.name || 'A feed without a name' }}</b>
        <span class="quiet small">{{ workspace.list(feed.draft.lists[0]!)?.name ?? 'a list that is gone' }}</span>
        <span class="small">{{ stateOf(feed) }}</span>
      </RouterLink>
    </li>
  </ul>
</template>

<style scoped>
ul {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-2);
  margin: 0;
  padding: 0;
  list-style: none;
}
.one {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr) minmax(0, 14rem) minmax(0, 22rem);
  gap: 2px var(--gap-3);
  align-items: center;
  padding: var(--gap-3) var(--gap-4);
  color: inherit;
  text-decoration: none;
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

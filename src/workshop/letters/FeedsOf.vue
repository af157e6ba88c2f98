<script setup lang="ts">
import { Rss } from '@lucide/vue'
import { ElEmpty } from 'element-plus'
import type { Feed } from '#core/letter'
import { useWorkspace } from '../data'
import { rhythmWords } from './feed-words'
import LetterRow from './LetterRow.vue'
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
    <LetterRow
      v-for="feed in letters.feeds"
      :key="feed.id"
      :icon="Rss"
      :to="{ name: 'feed', params: { id: feed.id } }"
      :title="feed.draft.name || 'A feed without a name'"
      :lists="workspace.list(feed.draft.lists[0]!)?.name ?? 'a list that is gone'"
      >{{ stateOf(feed) }}</LetterRow
    >
  </ul>
</template>

<style scoped>
ul {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-2);
  margin: 0;
  padding: 0;
}
</style>

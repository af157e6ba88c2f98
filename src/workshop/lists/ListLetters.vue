<script setup lang="ts">
import { ElButton, ElEmpty } from 'element-plus'
import { computed } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import { titleOf } from '#core/letter'
import type { List } from '#core/list'
import { stateWords, useLetters, useSendings, useSendingWords } from '../letters'

/** What is written to a list: letters in hand, on their way and sent, and its series. */
const { list } = defineProps<{ list: List }>()
const letters = useLetters()
const router = useRouter()
const words = useSendingWords()
const { sendings } = useSendings()
const own = computed(() =>
  (sendings.value ?? []).filter(({ content, source }) => source.kind !== 'series' && content.lists.includes(list.id)),
)
const inHand = computed(() => letters.letters.filter(({ draft }) => draft.lists.includes(list.id)))
const series = computed(() => letters.series.filter(({ draft }) => draft.list === list.id))
const isEmpty = computed(
  () => sendings.value !== null && own.value.length + inHand.value.length + series.value.length === 0,
)
async function write(): Promise<void> {
  const made = await letters.makeLetter('news', [list.id])
  await router.push({ name: 'letter', params: { id: made.id } })
}
</script>

<template>
  <ElEmpty v-if="isEmpty" class="sheet" description="Nothing was written to this list yet." />
  <ul v-else>
    <li v-for="one in inHand" :key="one.id">
      <RouterLink :to="{ name: 'letter', params: { id: one.id } }">{{
        titleOf(one.draft, 'A letter without a subject')
      }}</RouterLink>
      <span class="quiet small">in hand</span>
    </li>
    <li v-for="one in own" :key="one.id">
      <RouterLink :to="{ name: 'sending', params: { id: one.id } }">{{ words.title(one) }}</RouterLink>
      <span class="quiet small">{{ stateWords(one) }}</span>
    </li>
    <li v-for="one in series" :key="one.id">
      <RouterLink :to="{ name: 'series', params: { id: one.id } }">{{ one.draft.name }}</RouterLink>
      <span class="quiet small"
        >series, {{ one.draft.steps.length }} letters{{ one.published === null ? ', not begun' : '' }}</span
      >
    </li>
  </ul>
  <ElButton class="start" type="primary" @click="write">Write a letter</ElButton>
</template>

<style scoped>
ul {
  display: grid;
  gap: 0;
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: 2px var(--gap-4);
  padding: var(--gap-2) 0;
  border-bottom: 1px solid var(--hairline);
}
.start {
  justify-self: start;
}
</style>

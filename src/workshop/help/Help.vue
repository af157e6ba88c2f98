<script setup lang="ts">
import { computed, defineAsyncComponent, type Component } from 'vue'
import { useRouter } from 'vue-router'
import Indexed from '../controls/Indexed.vue'
import Page from '../controls/Page.vue'
import Nowhere from '../Nowhere.vue'
import { showTitle } from '../title'
import { helpPages } from './pages'

/** Help for owners: the same pages that stand in docs/help, and the keys first. */
const { page } = defineProps<{ page?: string }>()
const router = useRouter()
const texts: Record<string, () => Promise<Component>> = {
  keys: () => import('./Keys.vue'),
  'first-form': () => import('../../../docs/help/first-form.md'),
  sites: () => import('../../../docs/help/sites.md'),
  online: () => import('../../../docs/help/online.md'),
  people: () => import('../../../docs/help/people.md'),
  proof: () => import('../../../docs/help/proof.md'),
  lists: () => import('../../../docs/help/lists.md'),
  messages: () => import('../../../docs/help/messages.md'),
  letters: () => import('../../../docs/help/letters.md'),
  words: () => import('../../../docs/help/words.md'),
}
const shown = computed(() => helpPages.find(({ name }) => name === (page || 'keys')) ?? null)
const items = computed(() =>
  helpPages.map(({ name, title }) => ({
    name: title,
    to: name === 'keys' ? '/help' : `/help/${name}`,
    isCurrent: name === shown.value?.name,
  })),
)
const text = computed(() => {
  if (shown.value === null) return null
  showTitle(`Help: ${shown.value.title}`)
  return defineAsyncComponent(texts[shown.value.name]!)
})

/** Links between the pages are written as files, so that they work where the files are read. */
function follow(event: MouseEvent): void {
  const href = (event.target as HTMLElement).closest('a')?.getAttribute('href') ?? ''
  const name = /^([a-z-]+)\.md$/.exec(href)?.[1]
  if (name === undefined) return
  event.preventDefault()
  void router.push({ name: 'help', params: { page: name } })
}
</script>

<template>
  <Nowhere v-if="shown === null" />
  <Page v-else title="Help">
    <Indexed label="Pages of the help" :items="items">
      <article class="text" @click="follow"><component :is="text" /></article>
    </Indexed>
  </Page>
</template>

<style scoped>
.text {
  max-width: 46rem;
}
.text :deep(h1) {
  margin-bottom: var(--gap-4);
  font-size: var(--text-xl);
}
.text :deep(h2) {
  margin: var(--gap-5) 0 var(--gap-2);
}
.text :deep(:is(p, ol, ul, table)) {
  margin: 0 0 var(--gap-3);
}
.text :deep(li) {
  margin-bottom: var(--gap-1);
}
.text :deep(img) {
  max-width: 100%;
  height: auto;
  border: 1px solid var(--hairline);
  border-radius: var(--corner);
}
.text :deep(table) {
  display: block;
  overflow-x: auto;
  border-collapse: collapse;
}
.text :deep(:is(th, td)) {
  padding: var(--gap-2) var(--gap-4) var(--gap-2) 0;
  border-bottom: 1px solid var(--hairline);
  text-align: start;
  vertical-align: top;
}
.text :deep(th) {
  color: var(--quiet);
  font-size: var(--text-s);
}
</style>

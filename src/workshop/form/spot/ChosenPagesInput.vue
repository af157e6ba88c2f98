<script setup lang="ts">
import { ElInput } from 'element-plus'
import { computed, ref } from 'vue'
import { type ChosenPages, isOnPage, pathPatternProblem } from '#core/rule'
import Choice from '../../controls/Choice.vue'
import Labelled from '../../controls/Labelled.vue'
import TypedInput from '../../controls/TypedInput.vue'

/** On which pages of a site something appears, by the ends of their addresses. */
const { pages } = defineProps<{ pages: ChosenPages; /** Tells its choices from those of others. */ name: string }>()
const emit = defineEmits<{ change: [pages: ChosenPages] }>()

const which = [
  { value: 'all', label: 'On all pages' },
  { value: 'only', label: 'Only on these' },
  { value: 'but', label: 'On all but these' },
] as const

const refused = ref<string | null>(null)
const problem = ref<string | null>(null)
function setPatterns(text: string): void {
  const patterns = text
    .split(/[\n,]/)
    .map((pattern) => pattern.trim())
    .filter(Boolean)
  const wrong = patterns.find((pattern) => pathPatternProblem(pattern) !== null)
  problem.value = wrong === undefined ? null : `“${wrong}”: ${pathPatternProblem(wrong)}`
  refused.value = wrong === undefined ? null : text
  if (wrong === undefined) emit('change', { ...pages, patterns })
}

const tried = ref('')
const triedPath = computed(() => {
  const text = tried.value.trim()
  return text === '' || !URL.canParse(text, 'https://page.example')
    ? null
    : new URL(text, 'https://page.example').pathname
})
</script>

<template>
  <div class="pages">
    <Choice
      :model-value="pages.which"
      :name="`pages-${name}`"
      label="On which pages"
      :options="which"
      @update:model-value="$event !== '' && emit('change', { ...pages, which: $event })"
    />
    <template v-if="pages.which !== 'all'">
      <Labelled
        label="Paths, one a line"
        :problem="problem"
        hint="/about is one page, /posts/* all below posts, /posts/:title those right below."
      >
        <TypedInput
          :value="refused ?? pages.patterns.join('\n')"
          :is-refused="refused !== null"
          type="textarea"
          :rows="3"
          @change="setPatterns"
        />
      </Labelled>
      <Labelled label="Try a page" hint="Its address, or the end of it.">
        <ElInput v-model="tried" placeholder="/posts/first-frost" />
      </Labelled>
      <p v-if="triedPath !== null" class="small" role="status">
        {{ triedPath }}: {{ isOnPage(pages, triedPath) ? 'it appears there' : 'it does not appear there' }}
      </p>
    </template>
  </div>
</template>

<style scoped>
.pages {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(100%, 260px), 1fr));
  gap: var(--gap-2) var(--gap-4);
}
.pages > :first-child {
  grid-column: 1 / -1;
}
</style>

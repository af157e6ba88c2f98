<script setup lang="ts">
import { Trash2 } from '@lucide/vue'
import { ElButton } from 'element-plus'
import { shallowRef, watch } from 'vue'
import type { List } from '#core/list'
import TypedInput from '../controls/TypedInput.vue'
import { useBatchChanges } from './batch-changes'
import { useLongWork } from './long-work'
import { useMembers } from '../people'
import { peopleCount } from './people-count'
import WorkProgress from './WorkProgress.vue'

/** The tags of a list, counted: renamed, merged by renaming one to another, taken off everybody. */
const { list } = defineProps<{ list: List }>()
const members = useMembers()
const work = useLongWork()
const batches = useBatchChanges(work)

const tags = shallowRef<readonly { tag: string; count: number }[]>([])
watch(
  [() => list.id, () => members.changes],
  async () => {
    const mine = list.id
    const all = await members.ask('tagCounts', mine)
    if (mine === list.id) tags.value = all
  },
  { immediate: true },
)
const having = (tag: string) => ({
  list: list.id,
  filter: { join: 'and' as const, conditions: [{ about: 'tag' as const, is: true, tag }] },
})

async function rename(tag: string, named: string): Promise<void> {
  const other = named.replace(/\s+/g, ' ').trim()
  if (other !== '' && other !== tag) await batches.renameTag(having(tag), tag, other)
}

async function takeOff(tag: string): Promise<void> {
  const chosen = await batches.settle(having(tag))
  if (chosen !== null) await batches.change(chosen, { kind: 'untag', tag })
}
</script>

<template>
  <section v-if="tags.length > 0" aria-labelledby="tags-title">
    <h2 id="tags-title">Tags</h2>
    <p class="quiet small">One that is given another’s name becomes one with it.</p>
    <WorkProgress :work="work" />
    <ul>
      <li v-for="{ tag, count } in tags" :key="tag">
        <TypedInput
          :value="tag"
          :maxlength="200"
          :aria-label="`Name of the tag ${tag}`"
          @change="rename(tag, $event)"
        />
        <span class="quiet small">{{ peopleCount(count) }}</span>
        <ElButton
          text
          :disabled="work.isWorking.value"
          :aria-label="`Take the tag ${tag} off everybody`"
          @click="takeOff(tag)"
          ><Trash2 :size="16"
        /></ElButton>
      </li>
    </ul>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: var(--gap-2);
}
ul {
  display: grid;
  grid-template-columns: minmax(160px, 320px) auto auto;
  justify-content: start;
  gap: var(--gap-2) var(--gap-3);
  max-height: 320px;
  overflow: auto;
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  grid-template-columns: subgrid;
  grid-column: 1 / -1;
  align-items: center;
}
</style>

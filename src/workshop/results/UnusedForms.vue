<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import type { FormId } from '#core/ids'
import { UNUSED_DAYS, unusedForms } from '#core/results'
import { useWorkspace } from '../data'
import { useNotices } from '../notices'
import { shortDay } from '../charts'
import { useResults } from './results'

/** Forms that have brought nobody for long, to be archived by a press. */
const workspace = useWorkspace()
const results = useResults()
const notices = useNotices()
const unused = computed(() =>
  unusedForms(
    workspace.forms
      .filter(({ isArchived }) => !isArchived)
      .map(({ id, createdAt }) => ({ id, createdAt, publishedAt: workspace.latestVersion(id)?.publishedAt ?? null })),
    results.people,
    results.today(),
  ).map(({ id, last }) => ({ id, name: workspace.form(id)?.name ?? '', last })),
)
async function archive(id: FormId): Promise<void> {
  await workspace.archiveForm(id, true)
  notices.done('The form is archived: off the Desk, and its code still takes sign-ups.', () =>
    workspace.archiveForm(id, false),
  )
}
</script>

<template>
  <section v-if="unused.length > 0" class="sheet unused no-print" aria-labelledby="unused-title">
    <h2 id="unused-title">Not used any more?</h2>
    <p class="quiet small">Nobody has signed up by these for {{ UNUSED_DAYS }} days. Archived, they leave the Desk.</p>
    <ul>
      <li v-for="{ id, name, last } in unused" :key="id">
        <span>
          <RouterLink :to="{ name: 'form', params: { id } }">{{ name }}</RouterLink>
          <span class="quiet small">{{ last === null ? 'nobody ever' : `last on ${shortDay(last)}` }}</span>
        </span>
        <ElButton size="small" :aria-label="`Archive ${name}`" @click="archive(id)">Archive</ElButton>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.unused {
  padding: var(--gap-3) var(--gap-4);
}
h2,
p {
  margin: 0;
}
ul {
  margin: var(--gap-2) 0 0;
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  flex-wrap: wrap;
  gap: var(--gap-2);
  justify-content: space-between;
  padding-block: var(--gap-1);
}
li span span {
  margin-inline-start: var(--gap-2);
}
</style>

<script setup lang="ts">
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import type { List } from '#core/list'
import { useWorkspace } from '../data'
import ListGrowth from './ListGrowth.vue'
import { useMembers } from '../people'
import { sentBy } from './sent-by'

/** One list as its owner wants to see it: how many are on it, how it grew, what feeds it, what it sends. */
const { list } = defineProps<{ list: List }>()
const workspace = useWorkspace()
const members = useMembers()
const counts = computed(() => members.countsOf(list.id))
const gone = computed(() =>
  counts.value === null ? 0 : counts.value.left + counts.value.removed + counts.value.bounced,
)
const forms = computed(() => workspace.forms.filter((one) => one.list === list.id && !one.isArchived))
const mail = computed(() => sentBy(workspace.mail(list.id)?.published ?? null))
</script>

<template>
  <li class="sheet">
    <div class="about">
      <h2>
        <RouterLink :to="{ name: 'list', params: { id: list.id } }">{{ list.name }}</RouterLink>
      </h2>
      <p class="small">
        <template v-if="forms.length > 0"
          >Fed by
          <template v-for="(form, at) in forms" :key="form.id"
            ><template v-if="at > 0"> · </template
            ><RouterLink :to="{ name: 'form', params: { id: form.id } }">{{ form.name }}</RouterLink></template
          ></template
        >
        <span v-else class="quiet">No form feeds it yet.</span>
      </p>
      <p class="quiet small">{{ mail }}</p>
    </div>
    <dl v-if="counts">
      <div>
        <dt>on the list</dt>
        <dd>{{ counts.confirmed }}</dd>
      </div>
      <div v-if="counts.waiting > 0">
        <dt>to confirm</dt>
        <dd>{{ counts.waiting }}</dd>
      </div>
      <div v-if="gone > 0">
        <dt>gone</dt>
        <dd>{{ gone }}</dd>
      </div>
    </dl>
    <ListGrowth :list="list" />
  </li>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto 240px;
  gap: var(--gap-5);
  align-items: center;
  padding: var(--gap-3) var(--gap-4);
}
h2,
p {
  margin: 0;
}
h2 {
  font-size: var(--text-l);
}
.about {
  display: grid;
  gap: var(--gap-1);
}
dl {
  display: flex;
  gap: var(--gap-5);
  margin: 0;
}
dl div {
  display: flex;
  flex-direction: column-reverse;
}
dt {
  color: var(--quiet);
  font-size: var(--text-s);
  white-space: nowrap;
}
dd {
  margin: 0;
  font-size: 1.5rem;
  font-variant-numeric: tabular-nums;
  line-height: 1.1;
}
@media (max-width: 900px) {
  li {
    grid-template-columns: minmax(0, 1fr);
    gap: var(--gap-3);
  }
}
</style>

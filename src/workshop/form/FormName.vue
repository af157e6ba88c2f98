<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { RouterLink } from 'vue-router'
import type { Form } from '#core/form'
import type { List } from '#core/list'
import { useNotices } from '../shell/notices'
import { useWorkspace } from '../data/workspace'

/** The form's name, rewritten where it stands, and what the form belongs to. */
const { form } = defineProps<{ form: Form; list: List | null }>()

const workspace = useWorkspace()
const notices = useNotices()
const name = ref(form.name)
watch(
  () => form.name,
  (saved) => (name.value = saved),
)
const sites = computed(() => workspace.spotsOf(form.id).map((spot) => workspace.site(spot.site)?.name ?? 'no site'))

async function rename(): Promise<void> {
  const before = form.name
  const after = name.value.replaceAll(/\s+/g, ' ').trim()
  name.value = after === '' ? before : after
  if (after === '' || after === before) return
  await workspace.renameForm(form.id, after)
  notices.done('The form has a new name.', () => workspace.renameForm(form.id, before))
}
</script>

<template>
  <div class="form-name">
    <h1>
      <textarea
        v-model="name"
        aria-label="Name of the form"
        rows="1"
        maxlength="200"
        @change="rename"
        @keydown.enter.prevent="($event.target as HTMLElement).blur()"
      />
    </h1>
    <p class="quiet small">
      Feeds <RouterLink v-if="list" :to="{ name: 'list', params: { id: list.id } }">{{ list.name }}</RouterLink>
      <span v-if="sites.length > 0"> · sits on {{ [...new Set(sites)].join(', ') }}</span>
    </p>
  </div>
</template>

<style scoped>
textarea {
  display: block;
  width: 100%;
  max-width: max-content;
  margin-inline-start: -6px;
  min-width: min(12ch, 100%);
  padding: 1px 12px 1px 5px;
  border: 1px solid transparent;
  border-radius: var(--corner);
  background: transparent;
  color: inherit;
  font: inherit;
  resize: none;
  field-sizing: content;
}
textarea:hover {
  border-color: var(--edge);
}
.form-name {
  flex: 1 1 280px;
  min-width: 0;
}
</style>

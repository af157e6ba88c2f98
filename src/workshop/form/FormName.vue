<script setup lang="ts">
import Changes from '../controls/Changes.vue'
import { ElInput } from 'element-plus'
import { computed, ref, watch } from 'vue'
import { RouterLink } from 'vue-router'
import { type Form, serviceHostOf } from '#core/form'
import type { List } from '#core/list'
import { useNotices } from '../notices'
import { useWorkspace } from '../data'
import type { Draft } from './draft'

/** The form's name, rewritten where it stands, and what the form belongs to. */
const { form, list, draft } = defineProps<{ form: Form; list: List | null; draft: Draft }>()

const STEP = 'Rename the form'
const workspace = useWorkspace()
const notices = useNotices()
const name = ref(form.name)
watch(
  () => form.name,
  (saved) => (name.value = saved),
)
// Taken back at once, the new name may never have been read from the database.
watch(draft.undoName, (step) => step !== STEP && (name.value = form.name))
const service = computed(() => serviceHostOf(draft.content.value ?? form.draft))
const sites = computed(() => workspace.spotsOf(form.id).map((spot) => workspace.site(spot.site)?.name ?? 'no site'))

async function rename(): Promise<void> {
  const before = form.name
  const after = name.value.replaceAll(/\s+/g, ' ').trim()
  name.value = after === '' ? before : after
  if (after === '' || after === before) return
  // The name is no part of what is published, and one more step of what is done.
  const { id } = form
  const beside = {
    apply: () => workspace.renameForm(id, after),
    revert: () => workspace.renameForm(id, before),
  }
  await draft.change(STEP, 'name', () => {}, { beside })
  notices.done('The form has a new name.', draft.undo, draft.isStillLast())
}
</script>

<template>
  <div class="form-name">
    <h1>
      <Changes>
        <ElInput
          v-model="name"
          type="textarea"
          class="name"
          aria-label="Name of the form"
          :rows="1"
          :maxlength="200"
          @change="rename"
          @keydown.enter.prevent="($event.target as HTMLElement).blur()"
        />
      </Changes>
    </h1>
    <p class="quiet small">
      <b v-if="form.isArchived">Archived. </b>
      Sign-ups go
      <template v-if="service !== null">straight to {{ service }}, and none is kept here</template>
      <template v-else>
        to <RouterLink v-if="list" :to="{ name: 'list', params: { id: list.id } }">{{ list.name }}</RouterLink>
      </template>
      <span v-if="sites.length > 0"> · sits on {{ [...new Set(sites)].join(', ') }}</span>
    </p>
  </div>
</template>

<style scoped>
.name {
  margin-inline-start: -6px;
  font: inherit;
}
.name :deep(textarea) {
  width: auto;
  min-width: min(12ch, 100%);
  max-width: 100%;
  min-height: 0 !important;
  padding: 1px 12px 1px 6px;
  background: transparent;
  box-shadow: none;
  color: inherit;
  font: inherit;
  resize: none;
  field-sizing: content;
}
.name :deep(textarea:hover) {
  box-shadow: 0 0 0 1px var(--edge) inset;
}
.name :deep(textarea:focus) {
  box-shadow: 0 0 0 2px var(--moss) inset;
}
.form-name {
  flex: 1 1 280px;
  min-width: 0;
}
</style>

<script setup lang="ts">
import { ElButton, ElInput, ElInputTag } from 'element-plus'
import { computed, reactive, ref, watch } from 'vue'
import { sameValue } from '#core/json'
import { type List, valueOf } from '#core/list'
import Labelled from '../../controls/Labelled.vue'
import { useNotices } from '../../notices'
import ColumnInput from '../ColumnInput.vue'
import { useMemberChanges } from '../member-changes'
import type { ShownMember } from '../../people'

/** What is kept of somebody, to be changed. */
const { list, member } = defineProps<{ list: List; member: ShownMember }>()
const changes = useMemberChanges()
const notices = useNotices()
const problem = ref('')

/** As it stands in the controls. */
const typed = reactive({ email: '', values: {} as Record<string, string>, tags: [] as string[] })
const facts = computed(() => ({
  email: member.email.typed,
  values: Object.fromEntries(list.columns.map(({ key }) => [key, valueOf(member, key)])),
  tags: member.tags ?? [],
}))
const reset = () => Object.assign(typed, JSON.parse(JSON.stringify(facts.value)))
// What was changed elsewhere is shown, unless something is typed here.
watch(
  facts,
  (_, before) => {
    if (before === undefined || sameValue(typed, before)) reset()
  },
  { immediate: true },
)
const isChanged = computed(() => !sameValue(typed, facts.value))

async function save(): Promise<void> {
  const had = member.tags ?? []
  // Those that a form gave may be longer than what is typed here, and stay as they are.
  const tags = typed.tags.map((tag) => (had.includes(tag) ? tag : tag.replace(/\s+/g, ' ').trim())).filter(Boolean)
  const wrong = await changes.save(list.id, member, {
    email: typed.email,
    // Answers to columns that the list no longer has stay as well.
    values: { ...member.values, ...typed.values },
    ...(!sameValue(tags, had) && { tags }),
  })
  problem.value = wrong ?? ''
  if (wrong === null) notices.done(`${typed.email.trim()} is changed.`)
}
</script>

<template>
  <form novalidate @submit.prevent="save">
    <Labelled label="Email" :problem="problem">
      <ElInput v-model="typed.email" type="email" />
    </Labelled>
    <ColumnInput
      v-for="column in list.columns"
      :key="column.key"
      v-model="typed.values[column.key]!"
      :column="column"
    />
    <Labelled label="Tags" hint="Enter adds what is typed; Backspace takes the last one off.">
      <ElInputTag v-model="typed.tags" aria-label="Tags" :max="200" />
    </Labelled>
    <div class="row">
      <ElButton type="primary" native-type="submit" :disabled="!isChanged || member.isPending">Save</ElButton>
      <ElButton v-if="isChanged" text @click="reset">As it was</ElButton>
    </div>
  </form>
</template>

<style scoped>
form {
  display: grid;
  gap: var(--gap-3);
  margin-block-end: var(--gap-5);
}
form :deep(.el-form-item) {
  margin: 0;
}
</style>

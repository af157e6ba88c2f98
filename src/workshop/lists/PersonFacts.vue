<script setup lang="ts">
import { ElButton, ElInput, ElInputTag } from 'element-plus'
import { computed, reactive, ref, watch } from 'vue'
import { parseEmail } from '#core/email'
import { MAX_TAG_LENGTH } from '#core/journal'
import { sameValue } from '#core/json'
import { type List, valueOf } from '#core/list'
import { keepableText, MAX_VALUE_LENGTH } from '#core/text'
import Labelled from '../controls/Labelled.vue'
import { queueCommand } from '../data'
import { useNotices } from '../notices'
import { type ShownMember, useMembers } from './members'

/** What is kept of somebody, to be changed. */
const { list, member } = defineProps<{ list: List; member: ShownMember }>()
const members = useMembers()
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
watch(() => member.id, reset)
const isChanged = computed(() => !sameValue(typed, facts.value))

async function save(): Promise<void> {
  problem.value = ''
  const parsed = parseEmail(typed.email)
  if (!parsed.ok) {
    problem.value = parsed.problem.message
    return
  }
  const holder = await members.withAddress(list.id, parsed.email.compared)
  if (holder !== null && holder.id !== member.id) {
    problem.value = `${holder.email.typed} is in this list already (${holder.status}).`
    return
  }
  // Answers to columns that the list no longer has stay as they are.
  const values = Object.entries({ ...member.values, ...typed.values }).flatMap(([key, value]) =>
    value.trim() === '' ? [] : [[key, keepableText(value, MAX_VALUE_LENGTH)]],
  )
  await queueCommand({
    kind: 'edit-member',
    list: list.id,
    member: member.id,
    revision: member.revision,
    email: typed.email,
    values: Object.fromEntries(values),
    tags: typed.tags.map((tag) => tag.replace(/\s+/g, ' ').trim().slice(0, MAX_TAG_LENGTH)).filter(Boolean),
  })
  notices.done(`${parsed.email.typed} is changed.`)
}
</script>

<template>
  <form novalidate @submit.prevent="save">
    <Labelled label="Email" :problem="problem">
      <ElInput v-model="typed.email" type="email" />
    </Labelled>
    <Labelled v-for="column in list.columns" :key="column.key" :label="column.label">
      <ElInput v-model="typed.values[column.key]" :maxlength="MAX_VALUE_LENGTH" />
    </Labelled>
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

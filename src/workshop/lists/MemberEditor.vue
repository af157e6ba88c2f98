<script setup lang="ts">
import { ElButton, ElDialog, ElInput } from 'element-plus'
import { computed, reactive, ref } from 'vue'
import type { List } from '#core/list'
import { useLive } from '../data'
import ColumnInput from './ColumnInput.vue'
import { useMemberChanges } from './member-changes'
import { type GivenConsent, type ShownMember, useMembers } from '../people'
import Labelled from '../controls/Labelled.vue'
import { shownMoment } from '../controls'

/** Adds somebody by hand, or changes what is kept of a member. */
const { list, member } = defineProps<{ list: List; member: ShownMember | null }>()
const emit = defineEmits<{ close: [] }>()

const members = useMembers()
const changes = useMemberChanges()
const isOpen = ref(true)
const email = ref(member?.email.typed ?? '')
// Each column has a value of its own here, whatever it is named.
const values = reactive<Record<string, string>>({
  ...Object.fromEntries(list.columns.map(({ key }) => [key, ''])),
  ...member?.values,
})
const consent = ref('')
const consentProblem = ref('')
const problem = ref('')
const title = computed(() => (member === null ? `Add somebody to ${list.name}` : 'Change a member'))
const consents = useLive(
  () => (member === null ? Promise.resolve([]) : members.consentsOf(member)),
  [] as GivenConsent[],
)

async function save(): Promise<void> {
  consentProblem.value = member === null && consent.value.trim() === '' ? 'Say how they agreed, in a few words.' : ''
  if (consentProblem.value !== '') return
  const wrong = await changes.save(list.id, member, {
    email: email.value,
    values,
    consent: consent.value,
  })
  problem.value = wrong ?? ''
  isOpen.value = wrong !== null
}
</script>

<template>
  <ElDialog v-model="isOpen" :title="title" width="min(450px, 94vw)" append-to-body @closed="emit('close')">
    <form novalidate @submit.prevent="save">
      <Labelled label="Email" :problem="problem">
        <ElInput v-model="email" type="email" autofocus />
      </Labelled>
      <ColumnInput v-for="column in list.columns" :key="column.key" v-model="values[column.key]!" :column="column" />
      <div v-if="consents.length > 0" class="field">
        <span class="name">Agreed to, in the words that stood there</span>
        <p v-for="consent in consents" :key="consent.at + consent.field" class="small">
          “{{ consent.wording }}”
          <span class="quiet">{{ shownMoment(consent.at) }}, version {{ consent.version }}</span>
        </p>
      </div>
      <Labelled
        v-if="member === null"
        label="How did they agree to get mail?"
        :problem="consentProblem"
        hint="In your words, with when and where. It is kept as their receipt. Add only people who asked for it."
      >
        <ElInput v-model="consent" type="textarea" :autosize="{ minRows: 1, maxRows: 4 }" :maxlength="2000" />
      </Labelled>
      <div class="row">
        <ElButton type="primary" native-type="submit">{{ member === null ? 'Add to the list' : 'Save' }}</ElButton>
        <ElButton text @click="isOpen = false">Cancel</ElButton>
      </div>
    </form>
  </ElDialog>
</template>

<style scoped>
form {
  display: grid;
  gap: var(--gap-4);
}
</style>

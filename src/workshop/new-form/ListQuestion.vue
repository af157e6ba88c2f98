<script setup lang="ts">
import { ElInput } from 'element-plus'
import { computed, toRefs } from 'vue'
import { RouterLink } from 'vue-router'
import Labelled from '../controls/Labelled.vue'
import { useWorkspace } from '../data'
import AskWhich from './AskWhich.vue'
import { type ListPick, NEW } from './list-pick'
import type { ShownProblems } from './new-form'

/** Which list a new form feeds; one that posts straight to a service is only about it. */
const { pick, told, servicesHost } = defineProps<{
  pick: ListPick
  told: ShownProblems
  /** Where sign-ups go that are not kept here; null for none. */
  servicesHost: string | null
}>()
const workspace = useWorkspace()
const { key, name } = toRefs(pick)
const question = computed(() =>
  servicesHost === null ? 'Which list does it feed?' : 'Which of your lists is it about?',
)
/** The chosen list, where nothing of it goes to a service. */
const keptHere = computed(() => {
  const { chosen } = pick
  return chosen === undefined || servicesHost !== null || workspace.handOversOf(chosen.id).length > 0 ? null : chosen
})
</script>

<template>
  <fieldset data-about="list">
    <legend>{{ question }}</legend>
    <p v-if="servicesHost" class="quiet small">
      Who signs up goes to {{ servicesHost }}, and is not kept here; its name and why-line are what visitors read.
    </p>
    <AskWhich
      v-model="key"
      name="list"
      :question="question"
      :all="workspace.lists"
      placeholder="Choose a list"
      new-one="A new list"
    />
    <p v-if="told?.list" class="problem small" role="alert">{{ told.list }}</p>
    <p v-if="keptHere" class="quiet small">
      Its people are kept here. Are your letters sent by a service?
      <RouterLink :to="{ name: 'hand-on', params: { id: keptHere.id } }">Hand this list on</RouterLink> to it.
    </p>
    <Labelled v-if="key === NEW" label="Name of the list, as its members will know it" :problem="told?.listName">
      <ElInput v-model="name" :maxlength="200" />
    </Labelled>
  </fieldset>
</template>

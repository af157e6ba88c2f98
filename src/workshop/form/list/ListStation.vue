<script setup lang="ts">
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import type { Form } from '#core/form'
import type { StationState } from '#core/line'
import { useWorkspace } from '../../data/workspace'
import Findings from '../Findings.vue'
import MemberTable from '../../lists/MemberTable.vue'

const { form, state } = defineProps<{ form: Form; state?: StationState }>()
const workspace = useWorkspace()
const list = computed(() => workspace.list(form.list))
</script>

<template>
  <section aria-label="List">
    <Findings :findings="state?.findings ?? []" />
    <template v-if="list">
      <div class="page-head">
        <h2>{{ list.name }}</h2>
        <RouterLink :to="{ name: 'list', params: { id: list.id } }">Open the list</RouterLink>
      </div>
      <MemberTable :list="list" :form="form.id" />
    </template>
  </section>
</template>

<style scoped>
.page-head {
  margin-bottom: var(--gap-2);
}
</style>

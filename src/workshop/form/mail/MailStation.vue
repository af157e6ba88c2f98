<script setup lang="ts">
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import type { Form } from '#core/form'
import { useWorkspace } from '../../data'

const { form } = defineProps<{ form: Form }>()
const workspace = useWorkspace()
const list = computed(() => workspace.list(form.list))
</script>

<template>
  <section class="mail sheet" aria-label="Mail">
    <h2>No mail is sent</h2>
    <p>Whoever presses the button is on the list at once, without a mail to confirm the address first.</p>
    <p v-if="list">
      Every message you write to this list should say why the reader gets it. The list’s line is:
      <q>{{ list.why }}</q>
      <RouterLink :to="{ name: 'list', params: { id: list.id } }">Change it</RouterLink>
    </p>
  </section>
</template>

<style scoped>
.mail {
  display: grid;
  gap: var(--gap-3);
  max-width: 680px;
  padding: var(--gap-5);
}
</style>

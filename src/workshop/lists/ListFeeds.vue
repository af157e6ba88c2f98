<script setup lang="ts">
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import type { List } from '#core/list'
import { messagesInUse } from '#core/mail'
import { useWorkspace } from '../data'

/** What a list sends by itself, and the forms that feed it. */
const { list } = defineProps<{ list: List }>()
const workspace = useWorkspace()
const forms = computed(() => workspace.forms.filter((one) => one.list === list.id && !one.isArchived))
const mail = computed(() => {
  const published = workspace.mail(list.id)?.published ?? null
  if (published === null || messagesInUse(published).length === 0) return 'Sends no mail by itself.'
  const { confirm, messages, gift } = published
  const parts = [
    confirm === 'always' ? 'everybody confirms' : confirm === 'regions' ? 'some confirm' : null,
    messages.welcome.isOn ? `a welcome${gift === null ? '' : ` with “${gift.label}”`}` : null,
  ].filter((part) => part !== null)
  return parts.length === 0 ? 'Sends mail.' : `Mail: ${parts.join(', ')}.`
})
</script>

<template>
  <p class="quiet small">
    {{ mail }}
    <template v-if="forms.length > 0"
      >Fed by
      <template v-for="(form, at) in forms" :key="form.id"
        ><template v-if="at > 0"> · </template
        ><RouterLink :to="{ name: 'form', params: { id: form.id } }">{{ form.name }}</RouterLink></template
      ></template
    >
    <template v-else>No form feeds it yet.</template>
  </p>
</template>

<script setup lang="ts">
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import { serviceHostOf } from '#core/form'
import type { List } from '#core/list'
import { messagesInUse } from '#core/mail'
import { useWorkspace } from '../data'

/** What a list sends by itself, and the forms that feed it. */
const { list } = defineProps<{ list: List }>()
const workspace = useWorkspace()
const all = computed(() => workspace.forms.filter((one) => one.list === list.id && !one.isArchived))
const forms = computed(() => all.value.filter(({ draft }) => serviceHostOf(draft) === null))
/** Those that post straight to a service: they are filed here, and feed nothing. */
const elsewhere = computed(() =>
  all.value.flatMap((form) => {
    const host = serviceHostOf(form.draft)
    return host === null ? [] : [{ form, host }]
  }),
)
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
    <template v-for="{ form, host } in elsewhere" :key="form.id">
      <RouterLink :to="{ name: 'form', params: { id: form.id } }">{{ form.name }}</RouterLink> posts straight to
      {{ host }}, and feeds nothing here.
    </template>
  </p>
</template>

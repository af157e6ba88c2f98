<script setup lang="ts">
import { RouterLink } from 'vue-router'
import type { FormId } from '#core/ids'
import { useHeldMessages, useMessageCount } from './held'

/** The way to what visitors wrote by a form, where it takes messages or has any. */
const { form } = defineProps<{ form: FormId; takesMessages: boolean }>()
const count = useMessageCount(() => form)
const held = useHeldMessages()
</script>

<template>
  <p v-if="takesMessages || count" class="small">
    <RouterLink :to="{ name: 'messages', params: { id: form } }">{{
      count === null ? 'Messages' : count === 1 ? 'One message' : `${count} messages`
    }}</RouterLink><template v-if="held.get(form)">, {{ held.get(form) }} held back</template>
  </p>
</template>

<style scoped>
p {
  min-height: 24px;
  margin: 0 0 var(--gap-2);
}
</style>

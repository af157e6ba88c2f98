<script setup lang="ts">
import { computed } from 'vue'
import { type MailSettings, messageNames, messagesInUse } from '#core/mail'

/** What of a list's mail is sent, as the row of letters that somebody gets. */
const { settings, listName } = defineProps<{ settings: MailSettings; listName: string }>()
const inUse = computed(() => messagesInUse(settings))
</script>

<template>
  <span class="letters">
    <span class="from">{{ settings.senderName || listName }}</span>
    <span v-for="kind in inUse.slice(0, 3)" :key="kind" class="letter">{{ messageNames[kind] }}</span>
    <span v-if="inUse.length === 0" class="letter">No mail is sent</span>
  </span>
</template>

<style scoped>
.letters {
  display: grid;
  height: 100%;
  padding: var(--gap-1) var(--gap-2);
  align-content: start;
  font-size: 0.8125rem;
}
.from {
  font-weight: 600;
}
.from,
.letter {
  padding: 2px 0;
  border-bottom: 1px solid var(--hairline);
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>

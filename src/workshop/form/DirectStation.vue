<script setup lang="ts">
import { ExternalLink } from '@lucide/vue'
import { computed } from 'vue'
import type { FormContent } from '#core/form'
import type { Station } from '#core/station'

/** A station of a form that posts straight to a service: what the service does there, and how it is seen. */
const { content, station } = defineProps<{ content: FormContent; station: Station }>()
const address = computed(() => content.direct?.action ?? '')
const host = computed(() => (URL.canParse(address.value) ? new URL(address.value).host : address.value))
const says = computed(() => {
  const name = host.value
  switch (station) {
    case 'answer':
      return {
        title: `${name} answers`,
        does: `After the button, visitors come to a page of ${name}. Its words, and where it leads on to, are set there; nothing written here would be seen by anybody.`,
        see: 'Sign up on your page with an address of your own, read what comes, then sign up once more with the same address, and with a wrong one.',
      }
    case 'mail':
      return {
        title: `${name} sends the mail`,
        does: `Whether somebody has to confirm, what is written to them and from whom is set at ${name}. Ask Box sends nothing for this form.`,
        see: 'Sign up with an address of your own and look in your inbox, and in what it takes for spam. Press the link in it.',
      }
    default:
      return {
        title: `The list is at ${name}`,
        does: `Sign-ups go into the list at ${name}, and into none here. Who is on it, and files of it, are had there.`,
        see: `After you signed up on your page, look for yourself in the list at ${name}: once confirmed, and with the right values.`,
      }
  }
})
</script>

<template>
  <section class="sheet direct" :aria-label="says.title">
    <h2>{{ says.title }}</h2>
    <p>{{ says.does }}</p>
    <p><strong>How you see it:</strong> {{ says.see }}</p>
    <p class="quiet small">
      No server of yours is needed for this form. It posts to
      <a :href="address" target="_blank" rel="noreferrer"
        >{{ address }} <ExternalLink :size="13" aria-hidden="true"
      /></a>
    </p>
  </section>
</template>

<style scoped>
.direct {
  display: grid;
  gap: var(--gap-3);
  max-width: 760px;
  padding: var(--gap-4) var(--gap-5);
}
h2,
p {
  margin: 0;
}
a {
  overflow-wrap: anywhere;
}
</style>

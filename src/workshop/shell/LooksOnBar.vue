<script setup lang="ts">
import { useReceiver } from '../sync'

/** Says that this browser's key looks on, before anything is tried in vain. */
const receiver = useReceiver()
</script>

<template>
  <div class="looks-on" role="note">
    <b>You look on here</b> as “{{ receiver.bearer?.name }}”: nothing that you press changes a form, a list or anybody
    on it.
    <template v-if="!receiver.bearer?.seesPeople"
      >Names, addresses and what people wrote are not shown with this key.</template
    >
  </div>
</template>

<style scoped>
.looks-on {
  padding: var(--gap-2) var(--page-edge);
  border-bottom: 1px solid var(--hairline);
  background: var(--moss-wash);
  font-size: var(--text-s);
}
</style>

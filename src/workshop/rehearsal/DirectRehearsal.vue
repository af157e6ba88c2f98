<script setup lang="ts">
import { ElButton, ElDialog, ElInput } from 'element-plus'
import { computed, ref } from 'vue'
import { readEmail } from '#core/email'
import type { Spot } from '#core/spot'
import Labelled from '../controls/Labelled.vue'
import { useWorkspace } from '../data'
import { useRehearsal } from './store'

/** Asks before somebody is signed up at a service that a form posts straight to: nothing here can take them off again. */
const { spots } = defineProps<{ spots: readonly Spot[] }>()
const emit = defineEmits<{ close: [] }>()
const workspace = useWorkspace()
const rehearsal = useRehearsal()
const isOpen = ref(true)
const host = computed(() => {
  const direct = workspace.latestVersion(spots[0]!.form)?.content.direct
  return direct === undefined ? 'the service' : new URL(direct.action).host
})
const address = ref(`ilse.${Date.now().toString(36)}@rehearsal.example`)
const isReady = computed(() => typeof readEmail(address.value.trim()) !== 'string')
function begin(): void {
  isOpen.value = false
  void rehearsal.start(
    spots.map(({ id }) => id),
    address.value.trim(),
  )
}
</script>

<template>
  <ElDialog
    v-model="isOpen"
    :title="`Sign somebody up at ${host}?`"
    width="min(480px, 94vw)"
    append-to-body
    @closed="emit('close')"
  >
    <p>
      This form posts straight to {{ host }}. To see what visitors are answered, somebody made up signs up there on your
      page, and <b>stays in that list until you take them off</b>.
    </p>
    <Labelled
      label="Address to sign up with"
      hint="Some services refuse addresses that cannot be: then use one of your own, and read the mail that comes."
    >
      <ElInput v-model="address" type="email" aria-label="Address to sign up with" @keyup.enter="isReady && begin()" />
    </Labelled>
    <template #footer>
      <ElButton @click="isOpen = false">Not now</ElButton>
      <ElButton type="primary" :disabled="!isReady" @click="begin">Yes, sign them up</ElButton>
    </template>
  </ElDialog>
</template>

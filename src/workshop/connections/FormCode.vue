<script setup lang="ts">
import { ElButton, ElInput } from 'element-plus'
import Labelled from '../controls/Labelled.vue'
import { useDirectForm } from '../new-form/direct-form'
import type { NewHandOver } from './new-hand-over'

/** A service's own form, read from its pasted code, so that people can be posted to it as it would post them. */
const { inHand } = defineProps<{ inHand: NewHandOver }>()
const direct = useDirectForm()
const { pasted, page, read, problem, isBusy, host } = direct

async function look(): Promise<void> {
  inHand.forget()
  await direct.look()
  const found = read.value
  const email = found?.fields.find(({ kind }) => kind === 'email')
  inHand.takeForm(
    !found || email === undefined
      ? null
      : {
          kind: 'form-post',
          action: found.action,
          email: email.name,
          fields: found.fields.filter((one) => one !== email).map(({ name, label }) => ({ key: name, name: label })),
          fixed: [...found.fixed, ...(found.button === null ? [] : [found.button])],
        },
  )
}
</script>

<template>
  <div class="code">
    <ElInput
      v-model="pasted"
      type="textarea"
      :rows="6"
      aria-label="Code of the service’s form, or the address of its page"
      placeholder="Paste the code of the service’s form here, or the address of its page."
      spellcheck="false"
    />
    <Labelled v-if="problem?.needsPage" label="Address of the page that the code is from">
      <ElInput v-model="page" placeholder="https://" spellcheck="false" />
    </Labelled>
    <ElButton class="start" :loading="isBusy" :disabled="pasted.trim() === ''" @click="look()">Read it</ElButton>
    <p v-if="problem" class="problem" role="alert">{{ problem.message }}</p>
    <p v-if="read" role="status">It posts to {{ host }}.</p>
  </div>
</template>

<style scoped>
.code {
  display: grid;
  gap: var(--gap-3);
  max-width: 640px;
}
.start {
  justify-self: start;
}
p {
  margin: 0;
}
</style>

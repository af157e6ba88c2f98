<script setup lang="ts">
import { ElButton, ElProgress } from 'element-plus'
import { computed } from 'vue'
import { refillReceiver, useReceiver } from '../sync'
import { useFilling } from './filling'

/** Where the receiver has nothing of what is here: no form works until it is filled. */
const receiver = useReceiver()
const { progress, fill, stop } = useFilling()
const missing = computed(() => (receiver.sync?.state === 'empty-receiver' ? receiver.sync.missing : 0))
</script>

<template>
  <section v-if="progress !== null || receiver.sync?.state === 'empty-receiver'" class="sheet fill" role="alert">
    <template v-if="progress !== null">
      <ElProgress :percentage="Math.round(progress * 100)" aria-label="Filling the receiver" />
      <div class="row"><ElButton @click="stop">Stop</ElButton></div>
    </template>
    <template v-else>
      <h2>No form works yet</h2>
      <p>
        What takes in sign-ups, the receiver, is new: it has nothing of what is here ({{
          missing.toLocaleString('en-GB')
        }}
        events, and all that you made). Filled from here, forms and pages answer as they did. Nobody is written to by
        it.
      </p>
      <div class="row">
        <ElButton type="primary" @click="fill(refillReceiver)">Fill the receiver from here</ElButton>
      </div>
    </template>
  </section>
</template>

<style scoped>
.fill {
  display: grid;
  gap: var(--gap-3);
  padding: var(--gap-4) var(--gap-5);
  border-inline-start: 4px solid var(--moss);
}
h2,
p {
  margin: 0;
  max-width: 70ch;
}
</style>

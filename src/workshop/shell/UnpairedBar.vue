<script setup lang="ts">
import { ElButton } from 'element-plus'
import { defineAsyncComponent, ref } from 'vue'

/** What is here came from a file, and no receiver is known: all of it can be looked at, and nothing is taken in. */
const PairFirst = defineAsyncComponent(() => import('./PairFirst.vue'))
const isConnecting = ref(false)
</script>

<template>
  <div class="bar" role="status">
    <p>
      <b>This browser is not connected.</b> What is here came from a file: forms take no sign-ups until it is connected
      with where Ask Box runs.
      <ElButton link type="primary" :aria-expanded="isConnecting" @click="isConnecting = !isConnecting">{{
        isConnecting ? 'Not now' : 'Connect it'
      }}</ElButton>
    </p>
    <PairFirst v-if="isConnecting" />
  </div>
</template>

<style scoped>
.bar {
  padding: var(--gap-2) var(--page-edge);
  border-bottom: 1px solid var(--hairline);
  background: var(--moss-wash);
}
p {
  margin: 0;
}
</style>

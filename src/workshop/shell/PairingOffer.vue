<script setup lang="ts">
import { ElButton } from 'element-plus'
import { writeSetting } from '../data'
import { usePairing } from '../pairing'
import { useReceiver } from '../sync'

/** A key that came with the address: what became of it, and the question whether it takes the place of the one that is kept. */
const pairing = usePairing()
const receiver = useReceiver()

async function take(): Promise<void> {
  if (pairing.offer.result !== 'ask') return
  await writeSetting('pairing', pairing.offer.pairing)
  pairing.offer = { result: 'paired' }
}
</script>

<template>
  <div v-if="pairing.offer.result === 'ask'" class="offer" role="alert">
    <p>
      The address you opened holds a key for the receiver at <b>{{ pairing.offer.pairing.receiver }}</b>, and it works
      there. This browser is paired with <b>{{ receiver.pairing?.receiver ?? 'another one' }}</b> already. Take the new
      key only if you know where the address came from.
    </p>
    <div class="row">
      <ElButton @click="take">Take the new key</ElButton>
      <ElButton text @click="pairing.offer = { result: 'none' }">Keep the pairing as it is</ElButton>
    </div>
  </div>
  <div v-else-if="pairing.offer.result === 'refused'" class="offer" role="alert">
    <p>{{ pairing.offer.message }} <template v-if="receiver.pairing">The pairing stays as it was.</template></p>
    <div><ElButton text @click="pairing.offer = { result: 'none' }">Understood</ElButton></div>
  </div>
</template>

<style scoped>
.offer {
  display: grid;
  gap: var(--gap-2);
  padding: var(--gap-3) var(--page-edge);
  border-bottom: 2px solid var(--raspberry);
  background: var(--raspberry-wash);
}
.offer p {
  margin: 0;
}
</style>

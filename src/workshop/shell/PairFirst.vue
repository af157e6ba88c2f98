<script setup lang="ts">
import { ElButton, ElInput } from 'element-plus'
import { computed, ref } from 'vue'
import Labelled from '../controls/Labelled.vue'
import { useWorkspace, writeSetting } from '../data'
import OpenSavedFile from '../desk/OpenSavedFile.vue'
import { clientFor, ReceiverProblem, useReceiver } from '../sync'

/** Shown until this browser knows its receiver and the owner's key. */
const receiver = useReceiver()
const workspace = useWorkspace()
const isNothingHere = computed(() => workspace.lists.length + workspace.sites.length === 0)
const address = ref(location.origin)
const key = ref('')
const problem = ref('')
const isTrying = ref(false)

async function pair(): Promise<void> {
  problem.value = ''
  let receiver: string
  try {
    receiver = new URL(address.value.trim()).origin
  } catch {
    problem.value = 'The receiver’s address must be complete, such as https://forms.example.org.'
    return
  }
  isTrying.value = true
  try {
    const pairing = { receiver, key: key.value.trim() }
    await clientFor(pairing).describe()
    await writeSetting('pairing', pairing)
  } catch (error) {
    problem.value =
      error instanceof ReceiverProblem && error.status === 401
        ? 'The receiver is there, but this is not its key.'
        : `No receiver answered at ${receiver}. Check the address, and that the receiver is running.`
  } finally {
    isTrying.value = false
  }
}
</script>

<template>
  <div class="page pair">
    <h1>Connect this browser</h1>
    <p v-if="receiver.sync?.state === 'key-withdrawn'" role="alert">
      <b>The key of this browser was withdrawn.</b> All that it held is gone from here; where Ask Box runs, nothing was
      lost. Whoever looks after Ask Box can give you another address.
    </p>
    <p>
      When Ask Box starts, it prints an address that connects one browser:
      <b>open that whole address in this browser</b>.
    </p>
    <pre class="sheet">  Workshop        {{ address }}/#pair=…</pre>
    <p>
      Each such address works once. Another one: in a browser that is connected, under Settings; or by
      <code>npm run pair</code> on the computer where Ask Box runs.
    </p>
    <p>
      Or enter address and key by hand. For whoever looks after the server: a key lies in the file
      <code>owner.key</code> in the data folder.
    </p>
    <form novalidate @submit.prevent="pair">
      <Labelled label="Address of Ask Box"><ElInput v-model="address" type="url" /></Labelled>
      <Labelled label="Owner’s key" :problem="problem">
        <ElInput v-model="key" type="password" autocomplete="off" />
      </Labelled>
      <div>
        <ElButton type="primary" native-type="submit" :loading="isTrying" :disabled="key.trim() === ''"
          >Connect</ElButton
        >
      </div>
    </form>
    <div v-if="isNothingHere" class="row file">
      <span>Nothing runs any more, but there is a file? All that was made and happened is in it:</span>
      <OpenSavedFile />
    </div>
  </div>
</template>

<style scoped>
.pair {
  display: grid;
  gap: var(--gap-4);
  max-width: 620px;
  padding-top: var(--gap-6);
}
pre {
  margin: 0;
  padding: var(--gap-3);
  overflow-x: auto;
  font-size: var(--text-s);
}
form {
  display: grid;
  gap: var(--gap-4);
}
</style>

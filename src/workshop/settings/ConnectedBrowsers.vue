<script setup lang="ts">
import { ElButton, ElTable, ElTableColumn } from 'element-plus'
import { onMounted, ref, shallowRef } from 'vue'
import type { OwnersKey, PairingAddress } from '#core/api'
import { clientFor } from '../client'
import CopiedLine from '../controls/CopiedLine.vue'
import { shownMoment } from '../controls'
import { useNotices } from '../notices'
import { useReceiver } from '../sync'
import { stacked } from '../controls'

/** Who may come in: each browser has a key of its own, which can be withdrawn. */
const receiver = useReceiver()
const notices = useNotices()
const keys = shallowRef<OwnersKey[] | null>(null)
const pairing = shallowRef<PairingAddress | null>(null)
const isSure = ref<string | null>(null)
const client = () => (receiver.pairing === null ? null : clientFor({ ...receiver.pairing }))
onMounted(() =>
  client()
    ?.keys()
    .then(take, () => {}),
)

function take({ keys: all }: { keys: OwnersKey[] }): void {
  keys.value = all
}
async function tried(work: () => Promise<void> | undefined): Promise<void> {
  try {
    await work()
  } catch (error) {
    notices.problem(`Not done: ${error instanceof Error ? error.message : 'no answer'}`)
  }
}
const connect = () => tried(async () => void (pairing.value = (await client()?.newPairingAddress()) ?? null))
function withdraw({ id, name }: OwnersKey): Promise<void> {
  isSure.value = null
  return tried(async () => {
    const left = await client()?.withdrawKey(id)
    if (left === undefined) return
    take(left)
    notices.done(`${name} is out from now on. What it holds stays in it.`)
  })
}
const moment = (at: number) => shownMoment(new Date(at).toISOString())
</script>

<template>
  <section id="browsers" class="group" aria-labelledby="browsers-title">
    <h2 id="browsers-title">Who may come in</h2>
    <p>These browsers are connected, each with a key of its own. Withdraw it where a computer is lost or given away.</p>
    <p v-if="keys === null" class="quiet">Shown when Ask Box answers.</p>
    <ElTable
      v-bind="stacked"
      v-else
      :data="keys"
      row-key="id"
      empty-text="None by an address of its own; the key in the data folder works."
    >
      <ElTableColumn label="Browser" min-width="190">
        <template #default="{ row }"> {{ row.name }} <span v-if="row.isThis" class="quiet">(this one)</span> </template>
      </ElTableColumn>
      <ElTableColumn label="Connected" min-width="130">
        <template #default="{ row }">{{ moment(row.madeAt) }}</template>
      </ElTableColumn>
      <ElTableColumn label="Last here" min-width="130">
        <template #default="{ row }">{{ moment(row.usedAt) }}</template>
      </ElTableColumn>
      <ElTableColumn label="" min-width="190" align="right">
        <template #default="{ row }">
          <ElButton v-if="isSure !== row.id" text :aria-label="`Withdraw ${row.name}`" @click="isSure = row.id"
            >Withdraw</ElButton
          >
          <span v-else class="row sure">
            <ElButton type="danger" @click="withdraw(row as OwnersKey)">Withdraw its key</ElButton>
            <ElButton text @click="isSure = null">Keep it</ElButton>
          </span>
        </template>
      </ElTableColumn>
    </ElTable>
    <div class="row">
      <ElButton :disabled="receiver.pairing === null" @click="connect">Connect another browser</ElButton>
    </div>
    <div v-if="pairing" class="pairing" role="status">
      <p>Open this address in the other browser, before {{ moment(pairing.until) }}. It works once.</p>
      <CopiedLine :value="pairing.address" what="address" />
    </div>
  </section>
</template>

<style scoped>
.sure {
  justify-content: flex-end;
}
</style>

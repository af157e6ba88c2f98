<script setup lang="ts">
import { ElButton, ElTable, ElTableColumn } from 'element-plus'
import { computed, defineAsyncComponent, ref } from 'vue'
import type { OpenAddress, OwnersKey } from '#core/api'
import { now } from '../clock'
import { shownMoment, stacked } from '../controls'
import { useReceiver } from '../sync'
import LinkKey from './LinkKey.vue'
import OtherOpenings from './OtherOpenings.vue'
import { useOpenings } from './openings'

/** Whatever opens the house, on one list, with a way to shut it: keys of browsers, addresses, pages, and the key of links. */
const NewKey = defineAsyncComponent(() => import('./NewKey.vue'))
const receiver = useReceiver()
const openings = useOpenings()
const { all, isSure, read, make, withdraw, shut } = openings
const keys = computed(() => all.value?.keys ?? null)
const addresses = computed(() => all.value?.addresses ?? [])
const isLettingIn = ref(false)
const isOwner = computed(() => receiver.bearer?.right === 'owner')
const moment = (at: number) => shownMoment(new Date(at).toISOString())
const hasEnded = ({ until }: OwnersKey) => until !== null && until <= Date.parse(now())
function mayWords({ right, seesPeople }: Pick<OwnersKey, 'right' | 'seesPeople'>): string {
  if (right === 'owner') return 'All of it'
  if (right === 'editor') return 'Makes and publishes'
  return seesPeople ? 'Looks on, sees people' : 'Looks on, sees no names'
}
</script>

<template>
  <section id="browsers" class="group" aria-labelledby="browsers-title">
    <h2 id="browsers-title">Who may come in</h2>
    <p>
      Each browser has a key of its own, with a name and a right. Withdraw it where a computer is lost or somebody goes:
      that browser then empties itself. What was copied out of it before cannot be called back.
    </p>
    <p v-if="keys === null && !receiver.looksOn" class="quiet">Shown when Ask Box answers.</p>
    <ElTable
      v-bind="stacked"
      v-else-if="keys !== null"
      :data="keys"
      row-key="id"
      empty-text="Nobody by a key of their own yet."
    >
      <ElTableColumn label="Who" min-width="160">
        <template #default="{ row }"> {{ row.name }} <span v-if="row.isThis" class="quiet">(this one)</span> </template>
      </ElTableColumn>
      <ElTableColumn label="May" min-width="140">
        <template #default="{ row }">{{ mayWords(row as OwnersKey) }}</template>
      </ElTableColumn>
      <ElTableColumn label="Since" min-width="95">
        <template #default="{ row }">{{ moment(row.madeAt) }}</template>
      </ElTableColumn>
      <ElTableColumn label="Last here" min-width="95">
        <template #default="{ row }">{{ moment(row.usedAt) }}</template>
      </ElTableColumn>
      <ElTableColumn label="Until" min-width="110">
        <template #default="{ row }">{{ row.until ? moment(row.until) : '–' }}</template>
      </ElTableColumn>
      <ElTableColumn label="" min-width="180" align="right">
        <template #default="{ row }">
          <span v-if="row.withdrawnAt" class="quiet">Withdrawn {{ moment(row.withdrawnAt) }}</span>
          <span v-else-if="hasEnded(row as OwnersKey)" class="quiet">Ended {{ moment(row.until) }}</span>
          <template v-else-if="isOwner">
            <ElButton v-if="isSure !== row.id" text :aria-label="`Withdraw ${row.name}`" @click="isSure = row.id"
              >Withdraw</ElButton
            >
            <span v-else class="row sure">
              <ElButton type="danger" @click="withdraw(row as OwnersKey)">Withdraw the key</ElButton>
              <ElButton text @click="isSure = null">Keep it</ElButton>
            </span>
          </template>
        </template>
      </ElTableColumn>
    </ElTable>
    <template v-if="addresses.length > 0">
      <h3 id="addresses-title">Addresses that still let somebody in</h3>
      <p class="quiet">Each works once. Shut what you do not remember.</p>
      <ElTable v-bind="stacked" :data="addresses" row-key="id" aria-labelledby="addresses-title">
        <ElTableColumn label="For" min-width="170">
          <template #default="{ row }">{{ row.name || 'Whoever opens it' }}</template>
        </ElTableColumn>
        <ElTableColumn label="May" min-width="150">
          <template #default="{ row }">{{ mayWords(row as OpenAddress) }}</template>
        </ElTableColumn>
        <ElTableColumn label="Made by" min-width="190">
          <template #default="{ row }">{{ row.by ?? 'The start of Ask Box' }}</template>
        </ElTableColumn>
        <ElTableColumn label="Until" min-width="110">
          <template #default="{ row }">{{ moment(row.until) }}</template>
        </ElTableColumn>
        <ElTableColumn label="" min-width="90" align="right">
          <template #default="{ row }">
            <ElButton v-if="isOwner" text @click="shut(row as OpenAddress)">Shut</ElButton>
          </template>
        </ElTableColumn>
      </ElTable>
    </template>
    <!-- Not before the table: it would move away from under a press. -->
    <div v-if="isOwner && keys !== null" class="row">
      <ElButton @click="isLettingIn = true">Let somebody in</ElButton>
    </div>
    <p v-else-if="receiver.bearer && !isOwner" class="quiet">Whom to let in is the owner’s to say.</p>
    <template v-if="all !== null">
      <OtherOpenings :openings="openings" :is-owner="isOwner" />
      <LinkKey v-if="all.links" :openings="openings" :is-owner="isOwner" />
    </template>
    <NewKey v-if="isLettingIn" :make="make" @close="((isLettingIn = false), read())" />
  </section>
</template>

<style scoped>
.sure {
  justify-content: flex-end;
}
</style>

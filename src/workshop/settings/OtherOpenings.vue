<script setup lang="ts">
import { ElButton, ElTable, ElTableColumn } from 'element-plus'
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import type { Opening } from '#core/api'
import { shownMoment, stacked } from '../controls'
import type { OpeningsInHand } from './openings'

/** Addresses that let in without a key: what services call back, and pages of results for others. */
const { openings, isOwner } = defineProps<{ openings: OpeningsInHand; isOwner: boolean }>()
const { all, isSure, shutPage, renewService } = openings
type Row = Opening & { of: 'service' | 'page'; key: string }
const rows = computed<Row[]>(() => [
  ...(all.value?.services ?? []).map((one) => ({ ...one, of: 'service' as const, key: `service ${one.id}` })),
  ...(all.value?.pages ?? []).map((one) => ({ ...one, of: 'page' as const, key: `page ${one.id}` })),
])
const moment = (at: number | null) => (at === null ? '–' : shownMoment(new Date(at).toISOString()))
const close = (row: Row) => (row.of === 'page' ? shutPage(row) : renewService(row))
const words = {
  service: { press: 'Make anew', sure: 'Make the address anew', keep: 'Keep it' },
  page: { press: 'Withdraw', sure: 'Withdraw the page', keep: 'Keep it' },
}
</script>

<template>
  <template v-if="rows.length > 0">
    <h3 id="openings-title">Addresses that need no key</h3>
    <p class="quiet">
      By them a service tells who left there, and others look at results. Whoever knows one can use it, so make it anew,
      or withdraw it, where it may have come into other hands.
    </p>
    <ElTable v-bind="stacked" :data="rows" row-key="key" aria-labelledby="openings-title">
      <ElTableColumn label="For" min-width="180">
        <template #default="{ row }">
          <RouterLink v-if="row.of === 'service'" :to="{ name: 'connections', params: { id: row.id } }">{{
            row.name
          }}</RouterLink>
          <template v-else>{{ row.name }}</template>
          <span class="quiet">{{ row.of === 'service' ? ' (service)' : ' (page of results)' }}</span>
        </template>
      </ElTableColumn>
      <ElTableColumn label="Made by" min-width="110">
        <template #default="{ row }">{{ row.by ?? '–' }}</template>
      </ElTableColumn>
      <ElTableColumn label="Since" min-width="95">
        <template #default="{ row }">{{ moment(row.madeAt) }}</template>
      </ElTableColumn>
      <ElTableColumn label="Last used" min-width="95">
        <template #default="{ row }">{{ moment(row.usedAt) }}</template>
      </ElTableColumn>
      <ElTableColumn label="Until" min-width="95">
        <template #default="{ row }">{{ moment(row.until) }}</template>
      </ElTableColumn>
      <ElTableColumn label="" min-width="150" align="right">
        <template #default="{ row }">
          <template v-if="isOwner">
            <ElButton
              v-if="isSure !== row.key"
              text
              :aria-label="`${words[(row as Row).of].press}: ${row.name}`"
              @click="isSure = row.key"
              >{{ words[(row as Row).of].press }}</ElButton
            >
            <span v-else class="row sure">
              <ElButton type="danger" @click="close(row as Row)">{{ words[(row as Row).of].sure }}</ElButton>
              <ElButton text @click="isSure = null">{{ words[(row as Row).of].keep }}</ElButton>
            </span>
          </template>
        </template>
      </ElTableColumn>
    </ElTable>
  </template>
</template>

<style scoped>
.sure {
  justify-content: flex-end;
}
</style>

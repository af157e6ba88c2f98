<script setup lang="ts">
import { ElButton, ElTable, ElTableColumn } from 'element-plus'
import { ref, shallowRef, watch } from 'vue'
import { RouterLink } from 'vue-router'
import type { RefusedPerson } from '#core/api'
import type { HandOver } from '#core/connection'
import type { MemberId } from '#core/ids'
import type { List } from '#core/list'
import AddressText from '../controls/AddressText.vue'
import { shownMoment } from '../controls'
import { useNotices } from '../notices'
import { useOutside } from '.'
import { stacked } from '../controls'

/** Who was refused there for good, in the service's own words. */
const { list, handOver } = defineProps<{ list: List; handOver: HandOver }>()
const outside = useOutside()
const notices = useNotices()
const rows = shallowRef<RefusedPerson[]>([])
const isBusy = ref(false)

watch(
  () => outside.handOver(handOver.id)?.refused,
  async () => {
    rows.value = (await outside.client?.refusedOf(handOver.id))?.handed ?? []
  },
  { immediate: true },
)

async function again(all?: MemberId[]): Promise<void> {
  isBusy.value = true
  try {
    await outside.client?.handOverAgain(handOver.id, all)
    await outside.look()
  } catch (error) {
    notices.problem(error instanceof Error ? error.message : String(error))
  } finally {
    isBusy.value = false
  }
}
</script>

<template>
  <section class="refused" aria-labelledby="refused-title">
    <div class="row">
      <h2 id="refused-title">Refused there</h2>
      <ElButton size="small" :loading="isBusy" @click="again()">Try all again</ElButton>
    </div>
    <ElTable v-bind="stacked" :data="rows" max-height="320" row-key="member">
      <ElTableColumn label="Address" width="280">
        <template #default="{ row }">
          <RouterLink :to="{ name: 'person', params: { id: list.id, member: row.member } }"
            ><AddressText :address="row.email"
          /></RouterLink>
        </template>
      </ElTableColumn>
      <ElTableColumn prop="said" label="In its words" />
      <ElTableColumn label="When" width="170">
        <template #default="{ row }">{{ shownMoment(new Date(row.at).toISOString()) }}</template>
      </ElTableColumn>
      <ElTableColumn label="" width="120" align="right">
        <template #default="{ row }">
          <ElButton text size="small" :aria-label="`Try ${row.email} again`" @click="again([row.member])"
            >Try again</ElButton
          >
        </template>
      </ElTableColumn>
    </ElTable>
  </section>
</template>

<style scoped>
.refused {
  display: grid;
  gap: var(--gap-2);
}
h2 {
  margin: 0;
}
</style>

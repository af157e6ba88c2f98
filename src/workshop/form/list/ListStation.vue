<script setup lang="ts">
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import type { Form } from '#core/form'
import type { ListId } from '#core/ids'
import type { StationState } from '#core/line'
import Changes from '../../controls/Changes.vue'
import Labelled from '../../controls/Labelled.vue'
import Select from '../../controls/Select.vue'
import type { Proof } from '#core/proof'
import { proofsOf, useLive, useWorkspace } from '../../data'
import { useNotices } from '../../notices'
import Findings from '../../controls/Findings.vue'
import OnwardCard from '../../connections/OnwardCard.vue'
import MemberTable from '../../lists/table/MemberTable.vue'

const { form, state } = defineProps<{ form: Form; state?: StationState }>()
const workspace = useWorkspace()
const notices = useNotices()
const list = computed(() => workspace.list(form.list))
const spots = computed(() => workspace.spotsOf(form.id).map(({ id }) => id))
const proofs = useLive(() => proofsOf(spots.value), [] as Proof[], [() => spots.value.join()])
const published = computed(() => workspace.latestVersion(form.id))
const choices = computed(() =>
  [...workspace.lists, ...workspace.archivedLists.filter(({ id }) => id === form.list)].map(({ id, name }) => ({
    value: id as ListId,
    label: name,
  })),
)

async function feed(id: ListId | ''): Promise<void> {
  const before = form.list
  if (id === '' || id === before) return
  await workspace.feedList(form.id, id)
  notices.done(
    published.value === null
      ? 'The form feeds another list.'
      : 'The form will feed another list once it is published. Who signed up before stays where they are.',
    () => workspace.feedList(form.id, before),
  )
}
</script>

<template>
  <section aria-label="List" class="station-list">
    <Findings :findings="state?.findings ?? []" />
    <template v-if="list">
      <div class="head">
        <Labelled
          label="The form feeds"
          :hint="published && published.list !== form.list ? 'Visitors join it once the form is published.' : ''"
        >
          <Changes>
            <Select :model-value="list.id" :options="choices" @update:model-value="feed" />
          </Changes>
        </Labelled>
        <RouterLink :to="{ name: 'list', params: { id: list.id } }">Open the list</RouterLink>
      </div>
      <OnwardCard :list="list" :proofs="proofs" />
      <MemberTable :list="list" :form="form.id" />
    </template>
  </section>
</template>

<style scoped>
.station-list {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-4);
}
.head {
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  justify-content: space-between;
  gap: var(--gap-3);
}
.head > :first-child {
  width: min(340px, 100%);
}
</style>

<script setup lang="ts">
import { Plus } from '@lucide/vue'
import { ElButton } from 'element-plus'
import { computed, ref } from 'vue'
import { popUpProblem } from '#core/embed'
import type { Form, FormContent } from '#core/form'
import type { StationState } from '#core/line'
import { type Spot, type SpotKind, spotKinds } from '#core/spot'
import { useNotices } from '../../notices'
import { useWorkspace } from '../../data'
import { useReceiver } from '../../sync'
import Changes from '../../controls/Changes.vue'
import Select from '../../controls/Select.vue'
import Findings from '../../controls/Findings.vue'
import SpotCard from './SpotCard.vue'

const {
  form,
  state,
  lines = [],
} = defineProps<{
  form: Form
  content: FormContent
  state?: StationState
  /** Of each live spot. */ lines?: { spot: Spot; line: StationState[] }[]
}>()

const workspace = useWorkspace()
const receiver = useReceiver()
const notices = useNotices()
const spots = computed(() => workspace.spotsOf(form.id))
const version = computed(() => workspace.latestVersion(form.id))
const sites = computed(() => workspace.sites.map(({ id, name }) => ({ value: String(id), label: name })))
// What a site cannot take is not offered as if.
const kinds = computed(() => {
  const site = workspace.sites.find(({ id }) => id === siteId.value)
  return spotKinds
    .filter((one) => one.kind !== 'pop-up' || site === undefined || popUpProblem(site) === null)
    .map((one) => ({ value: one.kind, label: one.name.toLowerCase() }))
})
const isAdding = ref(false)
const siteId = ref('')
const kind = ref<SpotKind | ''>('inline')

async function add(): Promise<void> {
  const site = workspace.sites.find(({ id }) => id === siteId.value)
  if (site === undefined || kind.value === '') return
  if (kind.value === 'pop-up' && popUpProblem(site) !== null) {
    notices.problem(popUpProblem(site)!)
    return
  }
  const made = await workspace.makeSpot(form.id, { site, kind: kind.value, page: '' })
  isAdding.value = false
  siteId.value = ''
  if (!(await receiver.tell('spot', made.id)))
    notices.done('The new spot takes sign-ups as soon as Ask Box is reached.')
}
</script>

<template>
  <section class="spots" aria-label="Spot">
    <Findings :findings="state?.findings ?? []" />
    <SpotCard
      v-for="spot in spots"
      :key="spot.id"
      :spot="spot"
      :version="version"
      :content="content"
      :line="spots.length === 1 ? [] : (lines.find((one) => one.spot.id === spot.id)?.line ?? [])"
    />
    <Changes>
      <form novalidate v-if="isAdding" class="row" @submit.prevent="add">
        <span>Another spot on</span>
        <Select v-model="siteId" class="menu" label="Another spot on" placeholder="which site?" :options="sites" />
        <span>as</span>
        <Select v-model="kind" class="menu" label="as" :options="kinds" />
        <ElButton native-type="submit" :disabled="siteId === '' || undefined">Add it</ElButton>
        <ElButton text @click="isAdding = false">Cancel</ElButton>
      </form>
      <div v-else>
        <ElButton text @click="isAdding = true"><Plus :size="16" /><span>Another spot for this form</span></ElButton>
      </div>
    </Changes>
  </section>
</template>

<style scoped>
.spots {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-4);
}
.menu {
  width: 200px;
}
</style>

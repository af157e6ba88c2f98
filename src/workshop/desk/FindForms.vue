<script setup lang="ts">
import { ElButton, ElInput } from 'element-plus'
import { computed } from 'vue'
import type { SiteId } from '#core/ids'
import Select from '../controls/Select.vue'
import { useWorkspace } from '../data'
import type { DeskWish } from './found-forms'

/** Finds forms among many, and orders them. */
const wish = defineModel<DeskWish>({ required: true })
const isChoosing = defineModel<boolean>('choosing', { required: true })
defineProps<{ /** How many are shown, and of how many. */ count: number; of: number }>()
const workspace = useWorkspace()
const sites = computed((): { value: SiteId | ''; label: string }[] => [
  { value: '', label: 'Every site' },
  ...workspace.sites.map(({ id, name }) => ({ value: id, label: name })),
])
const orders = [
  { value: 'newest' as const, label: 'Newest first' },
  { value: 'hand' as const, label: 'What needs a hand first' },
  { value: 'joined' as const, label: 'Most sign-ups first' },
  { value: 'name' as const, label: 'By name' },
]
const states = [
  { value: '' as const, label: 'Every state' },
  { value: 'needs-work' as const, label: 'Needs work' },
  { value: 'changed' as const, label: 'Changed since proof' },
  { value: 'proven' as const, label: 'Proven from end to end' },
  { value: 'unpublished' as const, label: 'Not published' },
  { value: 'paused' as const, label: 'Paused' },
]
const set = (changes: Partial<DeskWish>) => (wish.value = { ...wish.value, ...changes })
</script>

<template>
  <div class="find">
    <ElInput
      class="words"
      type="search"
      clearable
      placeholder="Find a form"
      aria-label="Find a form, a list or a site"
      :model-value="wish.words"
      @update:model-value="set({ words: $event })"
    />
    <Select
      label="Site"
      class="menu"
      :options="sites"
      :model-value="wish.site"
      @update:model-value="set({ site: $event })"
    />
    <Select
      label="State"
      class="menu"
      :options="states"
      :model-value="wish.state"
      @update:model-value="set({ state: $event })"
    />
    <Select
      label="Order"
      class="menu wide"
      :options="orders"
      :model-value="wish.order"
      @update:model-value="set({ order: $event || 'newest' })"
    />
    <span class="quiet small" role="status">{{ count === of ? `${of} forms` : `${count} of ${of}` }}</span>
    <ElButton text :aria-pressed="isChoosing" @click="isChoosing = !isChoosing">{{
      isChoosing ? 'Done' : 'Choose several'
    }}</ElButton>
  </div>
</template>

<style scoped>
.find {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: var(--gap-2);
}
.words {
  flex: 1 1 170px;
}
.menu {
  width: 130px;
}
.wide {
  width: 190px;
}
.small {
  margin-inline-start: auto;
}
</style>

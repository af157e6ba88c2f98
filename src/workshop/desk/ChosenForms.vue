<script setup lang="ts">
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import type { Form } from '#core/form'
import type { ThemeId } from '#core/ids'
import type { Spot } from '#core/spot'
import Changes from '../controls/Changes.vue'
import Select from '../controls/Select.vue'
import { useThemes, useWorkspace } from '../data'
import { useSpotChanges } from '../form/spot/spot-changes'
import { useArchiving } from '../form/archiving'
import { useNotices } from '../notices'
import RehearseButton from '../rehearsal/RehearseButton.vue'

/** What is done with several forms as one, each with its undo. */
const { forms } = defineProps<{ forms: readonly Form[]; isAll: boolean }>()
const emit = defineEmits<{ all: [isAll: boolean]; done: [] }>()
const workspace = useWorkspace()
const themes = useThemes()
const spotChanges = useSpotChanges()
const { takingSignUps, openWords, closeWays } = useArchiving()
const notices = useNotices()
const spots = computed(() => forms.flatMap(({ id }) => workspace.spotsOf(id)))
const live = computed(() => spots.value.filter(({ state }) => state === 'live'))
const paused = computed(() => spots.value.filter(({ state }) => state === 'paused'))
const many = computed(() => `${forms.length} form${forms.length === 1 ? '' : 's'}`)

async function setState(changed: readonly Spot[], state: Spot['state']): Promise<void> {
  const told = []
  for (const spot of changed) told.push(await spotChanges.change(spot, { state }))
  const places = `${changed.length} spot${changed.length === 1 ? '' : 's'}`
  const later = told.every(Boolean) ? '' : ' here, and at Ask Box as soon as it is reached'
  notices.done(
    state === 'live' ? `${places} take sign-ups again${later}.` : `${places} take no sign-ups for now${later}.`,
    async () => {
      for (const { id, state: before } of changed) {
        const spot = workspace.spot(id)
        if (spot !== null) await spotChanges.change(spot, { state: before })
      }
    },
  )
}

async function archive(): Promise<void> {
  const all = forms.map(({ id }) => id)
  for (const id of all) await workspace.archiveForm(id, true)
  const open = takingSignUps(all)
  const words = `${many.value} archived: off the Desk${openWords(open)}.`
  const undo = async () => {
    for (const id of all) await workspace.archiveForm(id, false)
  }
  notices.done(words, undo, undefined, closeWays(open))
  emit('done')
}

async function dress(id: ThemeId | ''): Promise<void> {
  const theme = themes.theme(id === '' ? null : id)
  if (theme === null) return
  const undo = await themes.dress(
    forms.map((form) => form.id),
    theme,
  )
  notices.done(`${many.value} in “${theme.name}”. Visitors see it once each is published.`, undo)
}
</script>

<template>
  <section class="sheet chosen" aria-label="The chosen forms">
    <b role="status">{{ forms.length === 0 ? 'Choose forms below' : `${many} chosen` }}</b>
    <ElButton size="small" text @click="emit('all', !isAll)">{{ isAll ? 'None' : 'All that are shown' }}</ElButton>
    <template v-if="forms.length > 0">
      <RehearseButton :spots="spots" />
      <Changes>
        <ElButton :disabled="live.length === 0 || undefined" @click="setState(live, 'paused')">Pause</ElButton>
        <ElButton v-if="paused.length > 0" @click="setState(paused, 'live')">Take sign-ups again</ElButton>
        <ElButton @click="archive">Archive</ElButton>
      </Changes>
      <Select
        v-if="themes.themes.length > 0"
        class="theme"
        label="Theme for the chosen forms"
        placeholder="Give them a theme"
        model-value=""
        :options="themes.themes.map(({ id, name }) => ({ value: id, label: name }))"
        @update:model-value="dress"
      />
    </template>
  </section>
</template>

<style scoped>
.chosen {
  display: flex;
  flex-wrap: wrap;
  gap: var(--gap-2);
  align-items: center;
  padding: var(--gap-2) var(--gap-4);
}
.chosen .el-button {
  margin: 0;
}
.theme {
  width: 170px;
}
</style>

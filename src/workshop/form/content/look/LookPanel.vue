<script setup lang="ts">
import { ElCollapse, ElCollapseItem } from 'element-plus'
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import { type Form, type FormContent, lineRoomOf } from '#core/form'
import { lineObstacle } from '#core/look'
import { spotKinds } from '#core/spot'
import type { Draft } from '../../draft'
import { useWorkspace } from '../../../data'
import CustomCss from './CustomCss.vue'
import { type LookControl, lookGroups } from './look-controls'
import LookTokens from './LookTokens.vue'
import SitePalette from './SitePalette.vue'
import ThemeChoice from './ThemeChoice.vue'

/** Every token of how the form looks. `part` opens one group, as when the button was pressed in the preview. */
const { form, content, draft } = defineProps<{ form: Form; content: FormContent; draft: Draft }>()
const part = defineModel<string>('part', { required: true })

const workspace = useWorkspace()
const root = useTemplateRef('root')
const open = ref(['colours'])
const palette = computed(() => {
  const { background, text, accent, colours } = workspace.paletteOf(form.id)
  return [...new Set([background, text, accent, ...colours])].slice(0, 9)
})

function set({ step, part: changed, write }: LookControl, value: string | number | null): void {
  draft.change(step, `look ${changed}`, (changed) => write(changed.look, value))
}

const obstacle = computed(() => {
  const kinds = workspace.spots.filter((spot) => spot.form === form.id).map(({ kind }) => kind)
  const places = spotKinds
    .filter(({ kind }) => kinds.includes(kind))
    .map(({ name, widths }) => ({ name: name.toLowerCase(), width: Math.max(...widths) }))
    .toSorted((one, other) => other.width - one.width)
  return lineObstacle(content.look, { ...lineRoomOf(content), place: places[0] })
})
function putInLine(): void {
  const mended = obstacle.value?.mended ?? null
  if (mended !== null) draft.change('Put it in one line', 'look line', (changed) => (changed.look = mended))
}

watch(
  part,
  async (name) => {
    if (name === '') return
    if (!open.value.includes(name)) open.value = [...open.value, name]
    part.value = ''
    await nextTick()
    root.value?.querySelector(`[data-part="${name}"]`)?.scrollIntoView({ block: 'nearest' })
  },
  { immediate: true },
)
</script>

<template>
  <div ref="root" class="look">
    <ThemeChoice :content="content" :form="form" :draft="draft" />
    <ElCollapse v-model="open">
      <ElCollapseItem
        v-for="group in lookGroups"
        :key="group.key"
        :name="group.key"
        :title="group.title"
        :data-part="group.key"
      >
        <template v-if="open.includes(group.key)">
          <LookTokens
            :group="group"
            :look="content.look"
            :palette="palette"
            :obstacle="obstacle"
            @change="set"
            @line="putInLine"
          />
          <SitePalette v-if="group.key === 'colours'" :form="form" :draft="draft" />
        </template>
      </ElCollapseItem>
      <CustomCss :look="content.look" :draft="draft" />
    </ElCollapse>
  </div>
</template>

<style scoped>
.look {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
}
</style>

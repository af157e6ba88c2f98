<script setup lang="ts">
import { ArrowDown, ArrowUp, Columns3, GripVertical, Minus, Plus } from '@lucide/vue'
import { ElButton, ElCheckbox, ElPopover } from 'element-plus'
import Sortable from 'sortablejs'
import { onBeforeUnmount, useTemplateRef, watch } from 'vue'
import type { TableLayoutInHand } from './layout'

/** Which columns a table shows, in which order, how wide. */
const { layout } = defineProps<{ layout: TableLayoutInHand }>()
const STEP_PX = 30
const list = useTemplateRef('list')
let sortable: Sortable | null = null
// The menu is made when it opens.
watch(list, (element) => {
  sortable?.destroy()
  sortable =
    element &&
    Sortable.create(element, {
      handle: '.grip',
      animation: 120,
      onEnd({ oldIndex, newIndex, item, from }) {
        if (oldIndex === undefined || newIndex === undefined || oldIndex === newIndex) return
        // The menu is drawn from the list: what was dragged goes back, and the list moves it.
        from.insertBefore(item, from.children[oldIndex < newIndex ? oldIndex : oldIndex + 1] ?? null)
        void layout.put(oldIndex, newIndex)
      },
    })
})
onBeforeUnmount(() => sortable?.destroy())
</script>

<template>
  <ElPopover trigger="click" :persistent="false" :width="380" placement="bottom-end" popper-class="layout-menu">
    <template #reference>
      <ElButton><Columns3 :size="16" /><span>Columns shown</span></ElButton>
    </template>
    <ul ref="list">
      <li v-for="(column, at) in layout.columns.value" :key="column.key">
        <GripVertical class="grip" :size="16" aria-hidden="true" />
        <ElCheckbox
          :model-value="!column.isHidden"
          :disabled="column.key === 'email'"
          :label="column.title"
          @change="layout.toggle(column.key)"
        />
        <span class="row">
          <ElButton
            text
            :disabled="at === 0"
            :aria-label="`Move ${column.title} to the left`"
            @click="layout.move(column.key, -1)"
            ><ArrowUp :size="16"
          /></ElButton>
          <ElButton
            text
            :disabled="at === layout.columns.value.length - 1"
            :aria-label="`Move ${column.title} to the right`"
            @click="layout.move(column.key, 1)"
            ><ArrowDown :size="16"
          /></ElButton>
          <ElButton
            text
            :aria-label="`Make ${column.title} narrower`"
            @click="layout.widen(column.key, column.width - STEP_PX)"
            ><Minus :size="16"
          /></ElButton>
          <ElButton
            text
            :aria-label="`Make ${column.title} wider`"
            @click="layout.widen(column.key, column.width + STEP_PX)"
            ><Plus :size="16"
          /></ElButton>
        </span>
      </li>
    </ul>
    <ElButton text @click="layout.reset()">As it was at first</ElButton>
  </ElPopover>
</template>

<style scoped>
ul {
  margin: 0 0 var(--gap-2);
  padding: 0;
  list-style: none;
  max-height: 60vh;
  overflow: auto;
}
li {
  display: flex;
  gap: var(--gap-2);
  align-items: center;
}
.grip {
  flex: none;
  color: var(--quiet);
  cursor: grab;
}
.row {
  margin-inline-start: auto;
  gap: 0;
}
</style>

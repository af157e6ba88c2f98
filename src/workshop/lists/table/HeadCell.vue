<script setup lang="ts">
import { ArrowDown, ArrowUp } from '@lucide/vue'
import { ElButton } from 'element-plus'

/** A column's name: pressed, people are sorted by it; at its end it is dragged wider. */
const { width } = defineProps<{
  title: string
  width: number
  isSortable: boolean
  /** Which way, where people are sorted by it. */
  sorted: 'up' | 'down' | null
  isResizable: boolean
  /** From the first move until the new width is kept. */
  isDragged: boolean
}>()
const emit = defineEmits<{ sort: []; drag: [width: number]; dragged: [] }>()

function startDrag(event: PointerEvent): void {
  const handle = event.currentTarget as HTMLElement
  const [from, before] = [event.clientX, width]
  handle.setPointerCapture(event.pointerId)
  const move = ({ clientX }: PointerEvent) => emit('drag', before + clientX - from)
  handle.addEventListener('pointermove', move)
  const end = () => {
    handle.removeEventListener('pointermove', move)
    emit('dragged')
  }
  handle.addEventListener('lostpointercapture', end, { once: true })
}
</script>

<template>
  <!-- By keyboard, menus do both: Tab comes to the head after all of the rows. -->
  <ElButton v-if="isSortable" text class="head" tabindex="-1" @click="emit('sort')"
    ><span class="words">{{ title }}</span
    ><component :is="sorted === 'down' ? ArrowDown : ArrowUp" v-if="sorted !== null" :size="14" aria-hidden="true"
  /></ElButton>
  <span v-else class="words">{{ title }}</span>
  <span v-if="isResizable" class="handle" :class="{ dragged: isDragged }" aria-hidden="true" @pointerdown="startDrag" />
</template>

<style scoped>
.words {
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.head {
  min-width: 0;
  max-width: 100%;
  justify-content: start;
  padding: 0;
  color: inherit;
  font-size: inherit;
  font-weight: inherit;
}
.head :deep(> span) {
  min-width: 0;
  overflow: hidden;
}
.head :deep(span) {
  gap: var(--gap-1);
}
.handle {
  position: absolute;
  inset-block: 0;
  inset-inline-end: 0;
  width: 10px;
  border-inline-end: 2px solid transparent;
  cursor: col-resize;
  touch-action: none;
}
.handle:hover,
.handle.dragged {
  border-color: var(--moss);
}
</style>

<script setup lang="ts">
import { ChevronDown, ChevronUp, Copy, GripVertical, Plus, Trash2 } from '@lucide/vue'
import { ElButton, ElDropdown, ElDropdownItem, ElDropdownMenu } from 'element-plus'
import Sortable from 'sortablejs'
import { nextTick, onBeforeUnmount, onMounted, useTemplateRef } from 'vue'
import {
  blockKinds,
  blockName,
  blockNames,
  type LetterBlock,
  type LetterBlockKind,
  type LetterBody,
} from '#core/letter'
import { plainText } from '#core/text'
import { type ChangeBody, holds, useBlocks } from './blocks-in-hand'

/** What a letter is made of, in its order: drag, or move with the arrow buttons or Alt and the arrow keys. */
const { body, change } = defineProps<{ body: LetterBody; change: ChangeBody }>()
const chosen = defineModel<string | null>({ required: true })
const list = useTemplateRef('list')
const blocks = useBlocks(
  () => body,
  (...step) => change(...step),
)

function add(kind: LetterBlockKind): void {
  chosen.value = blocks.add(kind, chosen.value)
}

function says(block: LetterBlock): string {
  switch (block.kind) {
    case 'words':
      return plainText(block.text).replaceAll(/\s+/g, ' ').slice(0, 60) || 'empty'
    case 'picture':
      return block.alt || (block.picture === null && block.address === '' ? 'none chosen' : 'without words')
    case 'button':
      return block.words || 'without words'
    case 'offer':
      return block.heading || 'no form chosen'
    case 'columns':
      return `${block.left.length} and ${block.right.length}`
    case 'rule':
    case 'space':
      return ''
  }
}

function onKey(event: KeyboardEvent, at: number): void {
  if (!event.altKey || (event.key !== 'ArrowUp' && event.key !== 'ArrowDown')) return
  event.preventDefault()
  const id = body.blocks[at]!.id
  blocks.moveBy(id, event.key === 'ArrowUp' ? -1 : 1)
  void nextTick(() => list.value?.querySelector<HTMLElement>(`[data-key="${id}"] .title`)?.focus())
}

function remove(id: string): void {
  blocks.remove(id)
  if (chosen.value === id) chosen.value = null
}

let sortable: Sortable | null = null
onMounted(() => {
  if (list.value === null) return
  sortable = Sortable.create(list.value, {
    handle: '.grip',
    animation: 120,
    onEnd({ oldIndex, newIndex, item, from }) {
      if (oldIndex === undefined || newIndex === undefined || oldIndex === newIndex) return
      // The list is drawn from the draft: what was dragged goes back, and the draft moves it.
      from.insertBefore(item, from.children[oldIndex < newIndex ? oldIndex : oldIndex + 1] ?? null)
      blocks.move(oldIndex, newIndex)
    },
  })
})
onBeforeUnmount(() => sortable?.destroy())
</script>

<template>
  <fieldset class="group">
    <legend>What it is made of</legend>
    <ol ref="list" aria-label="Blocks, in their order">
      <li
        v-for="(block, at) in body.blocks"
        :key="block.id"
        :data-key="block.id"
        :class="{ open: chosen !== null && holds(block, chosen) }"
      >
        <GripVertical class="grip" :size="16" aria-hidden="true" />
        <ElButton
          text
          class="title"
          :aria-pressed="chosen === block.id"
          @click="chosen = block.id"
          @keydown="onKey($event, at)"
        >
          <span class="words"
            ><b>{{ blockName(block) }}</b> <span class="quiet small">{{ says(block) }}</span></span
          >
        </ElButton>
        <span v-if="chosen === block.id" class="tools">
          <ElButton text aria-label="Up" :disabled="at === 0 || undefined" @click="blocks.move(at, at - 1)"
            ><ChevronUp :size="16"
          /></ElButton>
          <ElButton
            text
            aria-label="Down"
            :disabled="at === body.blocks.length - 1 || undefined"
            @click="blocks.move(at, at + 1)"
            ><ChevronDown :size="16"
          /></ElButton>
          <ElButton text aria-label="Double" @click="chosen = blocks.copy(block.id)"><Copy :size="15" /></ElButton>
          <ElButton text aria-label="Take out" @click="remove(block.id)"><Trash2 :size="15" /></ElButton>
        </span>
      </li>
    </ol>
    <p v-if="body.blocks.length === 0" class="quiet small">Nothing yet. Put something in.</p>
    <ElDropdown trigger="click" class="add" @command="add">
      <ElButton><Plus :size="16" /><span>Put in …</span></ElButton>
      <template #dropdown>
        <ElDropdownMenu>
          <ElDropdownItem v-for="kind in blockKinds" :key="kind" :command="kind">{{ blockNames[kind] }}</ElDropdownItem>
        </ElDropdownMenu>
      </template>
    </ElDropdown>
  </fieldset>
</template>

<style scoped>
ol {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  align-items: center;
  border-top: 1px solid var(--hairline);
}
li:last-child {
  border-bottom: 1px solid var(--hairline);
}
li.open {
  background: var(--moss-wash);
}
.grip {
  flex: none;
  margin-inline: var(--gap-1);
  color: var(--quiet);
  cursor: grab;
}
.title {
  flex: 1;
  justify-content: start;
  min-width: 0;
  padding-inline: var(--gap-1);
}
.title :deep(> span) {
  min-width: 0;
}
.words {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.tools {
  display: flex;
  flex: none;
}
.tools .el-button {
  width: 28px;
  margin: 0;
  padding: 0;
}
.add {
  justify-self: start;
}
</style>

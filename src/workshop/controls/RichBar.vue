<script setup lang="ts">
import { Bold, Italic, Link, List, ListOrdered, Unlink } from '@lucide/vue'
import { ElButton, ElInput } from 'element-plus'
import { nextTick, ref, shallowRef, useTemplateRef } from 'vue'
import { FOLLOWABLE_LINK } from '#core/text'
import { vHint } from './hint'
import type { Format, TextEditor } from '../writing'

/** Formats the rich text in hand. Pressing it leaves the text in hand; Ctrl+B, Ctrl+I work in the text as well. */
const { editor } = defineProps<{ editor: TextEditor | null }>()

/** The text that a link is being set in, while its address is typed. */
const linking = shallowRef<TextEditor | null>(null)
const address = ref('')
const problem = ref(false)
const input = useTemplateRef('input')

const tools: { name: string; icon: typeof Bold; format: Format | 'link' }[] = [
  { name: 'Bold', icon: Bold, format: 'bold' },
  { name: 'Italic', icon: Italic, format: 'italic' },
  { name: 'Link', icon: Link, format: 'link' },
  { name: 'Take the link off', icon: Unlink, format: 'unlink' },
  { name: 'List', icon: List, format: 'bullets' },
  { name: 'Numbered list', icon: ListOrdered, format: 'numbers' },
]
const isOn = (format: Format | 'link') =>
  format !== 'link' && format !== 'unlink' && (editor?.active.value.has(format) ?? false)

/** Lists need a text of several blocks. */
const isOfBlocks = (format: Format | 'link') => format === 'bullets' || format === 'numbers'

async function startLink(): Promise<void> {
  if (editor === null) return
  linking.value = editor
  address.value = editor.link() ?? 'https://'
  problem.value = false
  await nextTick()
  input.value?.focus()
  input.value?.select()
}

function link(): void {
  const wanted = address.value.trim()
  problem.value = !FOLLOWABLE_LINK.test(wanted)
  if (problem.value) return
  linking.value?.setLink(wanted)
  linking.value = null
}

defineExpose({ startLink })
</script>

<template>
  <div class="bar" role="group" aria-label="Format the text in hand">
    <form novalidate v-if="linking" class="row" @submit.prevent="link">
      <ElInput
        ref="input"
        v-model="address"
        class="address"
        aria-label="Link to"
        spellcheck="false"
        :aria-invalid="problem || undefined"
        @keydown.esc="linking = null"
      />
      <ElButton native-type="submit">Set</ElButton>
      <ElButton text @click="linking = null">Cancel</ElButton>
      <span v-if="problem" class="problem small" role="alert">Begin with https://, mailto: or tel:.</span>
    </form>
    <template v-else>
      <ElButton
        v-for="{ name, icon, format } in tools"
        :key="name"
        v-hint="name"
        text
        class="tool"
        :disabled="!editor || (isOfBlocks(format) && editor.kind !== 'rich')"
        :aria-label="name"
        :aria-pressed="isOn(format)"
        @mousedown.prevent
        @click="format === 'link' ? startLink() : editor?.format(format)"
        ><component :is="icon" :size="16"
      /></ElButton>
    </template>
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  align-items: center;
  gap: 2px;
  min-height: 36px;
}
.tool {
  width: 32px;
  height: 32px;
  padding: 0;
}
.tool[aria-pressed='true'] {
  background: var(--moss-wash);
  color: var(--moss);
}
.address {
  width: 260px;
}
</style>

<script setup lang="ts">
import { onBeforeUnmount, onMounted, useTemplateRef } from 'vue'
import { useRouter } from 'vue-router'

const router = useRouter()
const dialog = useTemplateRef('dialog')

const shortcuts = [
  ['?', 'This list'],
  ['Ctrl+Z', 'Undo, on a form’s page'],
  ['Ctrl+Shift+Z', 'Redo, on a form’s page'],
  ['1 to 5', 'Go to a station of the line, on a form’s page'],
  ['Ctrl+B, Ctrl+I', 'Bold and italic, in a text of the picture'],
  ['Ctrl+K, Ctrl+Shift+L', 'Link and list, in a text of the picture'],
  ['Alt+↑, Alt+↓', 'Move a field, in the list of fields'],
  ['N', 'New form'],
  ['Esc', 'Leave a text you are rewriting in the picture'],
] as const

function onKey(event: KeyboardEvent): void {
  const target = event.target as HTMLElement
  if (event.ctrlKey || event.metaKey || event.altKey || target.closest('input, textarea, select, [contenteditable]'))
    return
  if (event.key === '?') dialog.value?.showModal()
  if (event.key.toLowerCase() === 'n') void router.push('/new')
}
onMounted(() => addEventListener('keydown', onKey))
onBeforeUnmount(() => removeEventListener('keydown', onKey))
</script>

<template>
  <dialog ref="dialog" class="dialog" aria-labelledby="shortcuts-title">
    <h2 id="shortcuts-title">Keys</h2>
    <dl>
      <template v-for="[keys, meaning] in shortcuts" :key="keys">
        <dt>
          <kbd>{{ keys }}</kbd>
        </dt>
        <dd>{{ meaning }}</dd>
      </template>
    </dl>
    <form method="dialog"><button class="el-button">Close</button></form>
  </dialog>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: var(--gap-2) var(--gap-4);
  margin: var(--gap-4) 0;
}
dd {
  margin: 0;
}
kbd {
  padding: 1px 6px;
  border: 1px solid var(--edge);
  border-radius: 3px;
  font-family: var(--mono);
  font-size: var(--text-s);
}
</style>

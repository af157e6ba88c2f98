<script setup lang="ts">
import { ElDialog } from 'element-plus'
import { ref } from 'vue'

/** The keys there are. */
const emit = defineEmits<{ close: [] }>()
const isOpen = ref(true)
const shortcuts = [
  ['?', 'This list'],
  ['Ctrl+K', 'Go anywhere, do anything'],
  ['Ctrl+Z', 'Undo, on a form’s page'],
  ['Ctrl+Shift+Z', 'Redo, on a form’s page'],
  ['1 to 5', 'Go to a station of the line, on a form’s page'],
  ['Ctrl+B, Ctrl+I', 'Bold and italic, in a text of the preview'],
  ['Ctrl+K, Ctrl+Shift+L', 'Link and list, in a text of the preview'],
  ['Alt+↑, Alt+↓', 'Move a field, in the list of fields'],
  ['N', 'New form'],
  ['Esc', 'Leave a text you are rewriting in the preview'],
] as const
</script>

<template>
  <ElDialog v-model="isOpen" title="Keys" width="min(480px, 94vw)" append-to-body @closed="emit('close')">
    <dl>
      <template v-for="[keys, meaning] in shortcuts" :key="keys">
        <dt>
          <kbd>{{ keys }}</kbd>
        </dt>
        <dd>{{ meaning }}</dd>
      </template>
    </dl>
  </ElDialog>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: var(--gap-2) var(--gap-4);
  margin: 0;
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

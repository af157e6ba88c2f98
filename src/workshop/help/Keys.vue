<script setup lang="ts">
/** The keys there are. */
const shortcuts = [
  ['?', 'This help'],
  ['Ctrl+K', 'Go anywhere, do anything'],
  ['Ctrl+Z', 'Undo, on a form’s page'],
  ['Ctrl+Shift+Z', 'Redo, on a form’s page'],
  ['1 to 5', 'Go to a station of the line, on a form’s page'],
  ['Ctrl+B, Ctrl+I', 'Bold and italic, in a text of the preview'],
  ['Ctrl+K, Ctrl+Shift+L', 'Link and list, in a text of the preview'],
  ['↑, ↓', 'From form to form, on the Desk'],
  ['Alt+↑, Alt+↓', 'Move a field, in the list of fields'],
  ['N', 'New form'],
  ['Esc', 'Leave a text you are rewriting in the preview'],
] as const
</script>

<template>
  <h1>Keys</h1>
  <dl>
    <template v-for="[keys, meaning] in shortcuts" :key="keys">
      <dt>
        <kbd>{{ keys }}</kbd>
      </dt>
      <dd>{{ meaning }}</dd>
    </template>
  </dl>
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

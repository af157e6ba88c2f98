<script setup lang="ts">
import { ElButton } from 'element-plus'

/** A text of which parts are pressed, to say what they are; what is known of them stands behind them. */
defineProps<{
  label: string
  parts: readonly { text: string; /** Missing where it cannot be pressed. */ id?: string; mark?: string }[]
  chosen: string | null
}>()
const emit = defineEmits<{ press: [id: string] }>()
</script>

<template>
  <div class="text" role="group" :aria-label="label">
    <template v-for="(part, at) in parts" :key="at"
      ><ElButton
        v-if="part.id !== undefined"
        text
        class="part"
        :class="{ marked: part.mark, chosen: part.id === chosen }"
        :aria-pressed="part.id === chosen"
        @click="emit('press', part.id)"
        >{{ part.text }}<small v-if="part.mark">&nbsp;{{ part.mark }}</small></ElButton
      ><template v-else>{{ part.text }}</template></template
    >
  </div>
</template>

<style scoped>
.text {
  box-sizing: border-box;
  max-height: 420px;
  padding: var(--gap-3);
  border: 1px solid var(--hairline);
  border-radius: var(--corner);
  background: var(--sunken);
  font-family: var(--mono);
  font-size: var(--text-s);
  line-height: 1.75;
  white-space: pre-wrap;
  overflow: auto;
  overflow-wrap: anywhere;
}
.part.el-button {
  display: inline;
  height: auto;
  min-height: 24px;
  margin: 0;
  padding: 1px 0;
  border-radius: 3px;
  font: inherit;
  line-height: inherit;
  text-align: start;
  white-space: pre-wrap;
  vertical-align: baseline;
}
.part.el-button:hover {
  background: var(--sheet);
  text-decoration: underline dotted;
}
/* Where it is known. */
.marked.el-button {
  padding-inline: 3px;
  background: var(--sheet);
  box-shadow: inset 0 -2px 0 var(--moss);
  font-weight: 600;
}
.chosen.el-button {
  outline: 2px solid var(--moss);
}
small {
  color: var(--moss);
  font-family: var(--sans);
  font-size: 0.92em;
  font-weight: 600;
}
</style>

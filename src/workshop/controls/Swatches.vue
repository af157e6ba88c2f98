<script setup lang="ts">
import { ElButton } from 'element-plus'
import { vHint } from './hint'

/** Colours to choose one of, each named to screen readers by its hex. */
defineProps<{
  name: string
  colours: readonly { colour: string; hint: string }[]
  chosen: string | null
  label?: string
}>()
const emit = defineEmits<{ choose: [colour: string] }>()
</script>

<template>
  <div class="swatches" role="group" :aria-label="label ?? name">
    <ElButton
      v-for="{ colour, hint } in colours"
      :key="colour"
      v-hint="hint"
      class="swatch"
      :style="{ background: colour }"
      :aria-label="`${name}: ${colour}`"
      :aria-pressed="colour === chosen"
      @click="emit('choose', colour)"
    />
  </div>
</template>

<style scoped>
.swatches {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
}
.swatch {
  width: 24px;
  height: 24px;
  padding: 0;
  border-radius: 2px;
}
.swatch[aria-pressed='true'] {
  outline: 2px solid var(--moss);
  outline-offset: 1px;
}
</style>

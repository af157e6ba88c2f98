<script setup lang="ts">
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
    <button
      v-for="{ colour, hint } in colours"
      :key="colour"
      type="button"
      :style="{ background: colour }"
      :title="hint"
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
button {
  width: 24px;
  height: 24px;
  padding: 0;
  border: 1px solid var(--edge);
  border-radius: 2px;
  cursor: pointer;
}
button[aria-pressed='true'] {
  outline: 2px solid var(--moss);
  outline-offset: 1px;
}
</style>

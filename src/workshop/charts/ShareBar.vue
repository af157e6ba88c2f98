<script setup lang="ts">
/** Parts of a whole as one thin bar; words beside it say the same. */
defineProps<{ parts: readonly { name: 'done' | 'waiting' | 'bad'; count: number }[] }>()
</script>

<template>
  <span class="bar" aria-hidden="true">
    <span v-for="part in parts" :key="part.name" :class="part.name" :style="{ flexGrow: part.count }" />
  </span>
</template>

<style scoped>
.bar {
  display: flex;
  gap: 1px;
  width: 100%;
  height: 6px;
  background: var(--hairline);
}
.bar > * {
  flex-basis: 0;
}
.done {
  background: var(--moss);
}
.waiting {
  background: repeating-linear-gradient(-45deg, var(--moss) 0 2px, transparent 2px 5px);
}
.bad {
  background: var(--raspberry);
}
</style>

<script setup lang="ts">
/** The frame of a page: its heading with what stands above and below it, what can be done, then all the rest. */
defineProps<{ title: string }>()
</script>

<template>
  <div class="page">
    <div class="page-head">
      <div>
        <p v-if="$slots.above" class="small"><slot name="above" /></p>
        <h1>{{ title }}</h1>
        <slot name="below" />
      </div>
      <slot name="actions" />
    </div>
    <slot />
  </div>
</template>

<style scoped>
.page {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  align-content: start;
  gap: var(--gap-4);
}
.page-head {
  margin: 0;
}
.page-head > div {
  min-width: 0;
}
h1 {
  margin: 0;
}
h1,
.small {
  overflow-wrap: anywhere;
}
.small {
  margin: 0;
}
</style>

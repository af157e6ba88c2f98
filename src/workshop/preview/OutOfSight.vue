<script setup lang="ts">
/** Holds what is drawn to be measured and seen by nobody. */
</script>

<template>
  <div class="out-of-sight" aria-hidden="true"><slot /></div>
</template>

<style scoped>
.out-of-sight {
  position: absolute;
  width: 0;
  height: 0;
  overflow: hidden;
  visibility: hidden;
}
</style>

<script setup lang="ts">
import { computed } from 'vue'

/** An address: a long one breaks before its @ or a dot, and never within a word. */
const { address } = defineProps<{ address: string }>()
const parts = computed(() => address.split(/(?=[@.])/))
</script>

<template>
  <span
    ><template v-for="(part, at) in parts" :key="at"><wbr v-if="at > 0" />{{ part }}</template></span
  >
</template>

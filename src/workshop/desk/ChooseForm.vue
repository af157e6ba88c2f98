<script setup lang="ts">
import { ElCheckbox } from 'element-plus'

/** Beside a form while several are chosen; a file of its own, because few choose and all load the Desk. */
defineProps<{ name: string; isChosen: boolean }>()
defineEmits<{ choose: [] }>()
</script>

<template>
  <ElCheckbox :model-value="isChosen" :aria-label="`Choose ${name}`" @change="$emit('choose')" />
</template>

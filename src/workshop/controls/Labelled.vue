<script setup lang="ts">
import { ElFormItem } from 'element-plus'

/** A control under its name, with what is wrong with it and a word of explanation below. */
defineProps<{ label: string; problem?: string | null; hint?: string }>()
</script>

<template>
  <ElFormItem :label="label" label-position="top">
    <slot />
    <p v-if="problem" class="problem small" role="alert">{{ problem }}</p>
    <p v-else-if="hint" class="quiet small">{{ hint }}</p>
  </ElFormItem>
</template>

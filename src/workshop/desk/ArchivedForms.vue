<script setup lang="ts">
import { ElCollapse, ElCollapseItem } from 'element-plus'
import type { Form } from '#core/form'
import DeskLine from './DeskLine.vue'

/** Archived forms: out of sight until somebody looks for them. */
defineProps<{ forms: readonly Form[] }>()
</script>

<template>
  <ElCollapse>
    <ElCollapseItem :title="`Archived, ${forms.length}`">
      <ul>
        <DeskLine v-for="form in forms" :key="form.id" :form="form" />
      </ul>
    </ElCollapseItem>
  </ElCollapse>
</template>

<style scoped>
ul {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: var(--gap-2);
  margin: 0;
  padding: 0;
  list-style: none;
}
</style>

<script setup lang="ts" generic="Value extends string">
import { ElTabPane, ElTabs } from 'element-plus'

/** Views of one thing, of which one is shown. Nothing is set by choosing another. */
const value = defineModel<Value>({ required: true })
defineProps<{ label: string; views: readonly { value: Value; label: string }[] }>()
defineSlots<{ default?: () => unknown }>()
</script>

<template>
  <ElTabs v-model="value" :class="{ 'heads-only': !$slots.default }" :aria-label="label">
    <ElTabPane v-for="view in views" :key="view.value" :name="view.value" :label="view.label">
      <slot v-if="view.value === value" />
    </ElTabPane>
  </ElTabs>
</template>

<style scoped>
.heads-only :deep(.el-tabs__header) {
  margin: 0;
}
.heads-only :deep(.el-tabs__content) {
  display: none;
}
</style>

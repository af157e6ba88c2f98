<script setup lang="ts" generic="Value extends string">
import { ElRadio, ElRadioGroup } from 'element-plus'

/** A few options to choose one of, all in sight. Give a `label`, what is chosen here, wherever no fieldset says so. */
const value = defineModel<Value | ''>({ required: true })
defineProps<{
  name: string
  label?: string
  options: readonly { value: Value; label: string; disabled?: boolean }[]
  /** Whether only what is chosen has a frame. */ isQuiet?: boolean
}>()
</script>

<template>
  <ElRadioGroup v-model="value" :class="{ unframed: isQuiet }" :name="name" :aria-label="label ?? name">
    <ElRadio v-for="option in options" :key="option.value" :value="option.value" :disabled="option.disabled" border>{{
      option.label
    }}</ElRadio>
  </ElRadioGroup>
</template>

<style scoped>
.unframed .el-radio:not(.is-checked) {
  border-color: transparent;
  background: transparent;
}
</style>

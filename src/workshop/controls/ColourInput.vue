<script setup lang="ts">
import { ElButton, ElColorPicker } from 'element-plus'
import { ref } from 'vue'
import TypedInput from './TypedInput.vue'
import Swatches from './Swatches.vue'

/** A colour: from the site's palette, from a colour field, or as hex. */
const { name, value, palette, canBeNone } = defineProps<{
  name: string
  value: string | null
  /** What it is while none is chosen. */ effective: string
  palette: readonly string[]
  canBeNone?: boolean
}>()
const emit = defineEmits<{ change: [colour: string | null] }>()
const problem = ref(false)

function take(colour: string | null): void {
  problem.value = false
  emit('change', colour)
}

function set(typed: string | null): void {
  if (canBeNone && (typed ?? '').trim() === '') return take(null)
  const colour = (typed ?? '').trim().toLowerCase().replace(/^#?/, '#')
  const long = /^#[0-9a-f]{3}$/.test(colour) ? colour.replace(/[0-9a-f]/g, '$&$&') : colour
  if (/^#[0-9a-f]{6}$/.test(long)) take(long)
  else problem.value = true
}
</script>

<template>
  <div class="colour">
    <ElColorPicker
      :model-value="value ?? effective"
      :aria-label="`${name} colour`"
      :predefine="[...palette]"
      @active-change="set"
      @change="set"
    />
    <label :for="`colour-${name}`">{{ name }}</label>
    <TypedInput
      :id="`colour-${name}`"
      class="hex"
      :value="value"
      :placeholder="canBeNone ? 'like the rest' : effective"
      spellcheck="false"
      :is-refused="problem"
      @change="set"
    />
    <ElButton v-if="canBeNone && value !== null" class="none" link type="primary" size="small" @click="take(null)"
      >like the rest</ElButton
    >
    <p v-if="problem" class="problem small" role="alert">Write a colour as #2a2236.</p>
    <Swatches
      v-if="palette.length > 0"
      class="palette"
      :name="name"
      :label="`${name}: colours of the site`"
      :colours="palette.map((colour) => ({ colour, hint: colour }))"
      :chosen="value"
      @choose="take"
    />
  </div>
</template>

<style scoped>
.colour {
  display: grid;
  grid-template-columns: 36px 1fr 124px;
  align-items: center;
  gap: var(--gap-1) var(--gap-3);
}
.hex :deep(input) {
  font-family: var(--mono);
  font-size: var(--text-s);
}
.colour .problem,
.palette,
.none {
  grid-column: 2 / -1;
}
.none {
  justify-self: end;
}
.colour :deep(.el-color-picker__trigger) {
  width: 36px;
  height: 34px;
  padding: 3px;
  border-color: var(--edge);
}
.colour :deep(.el-color-picker__color) {
  border: 0;
}
.colour :deep(.el-color-picker__icon),
.colour :deep(.el-color-picker__empty) {
  display: none;
}
</style>

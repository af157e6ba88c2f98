<script setup lang="ts">
import { ElTooltip } from 'element-plus'
import { useEventListener } from '@vueuse/core'
import { computed, shallowRef, watch } from 'vue'
import { hinted } from './hint'

/** The one tooltip of the workshop, beside whatever `v-hint` is pointed at. Escape puts it away (WCAG 1.4.13). */
const place = computed(() => {
  const element = hinted.value?.element
  // Where it is, and not the element itself, which the tooltip would describe, and still would when it says something of another.
  return element && { getBoundingClientRect: () => element.getBoundingClientRect(), contextElement: element }
})
/** The words stay while the tooltip goes. */
const text = shallowRef('')
watch(hinted, (now) => now && (text.value = now.text), { immediate: true })
useEventListener('keydown', ({ key }) => key === 'Escape' && (hinted.value = null))
</script>

<template>
  <ElTooltip
    :visible="hinted !== null"
    :content="text"
    :virtual-ref="place"
    virtual-triggering
    popper-class="hint"
    placement="bottom"
    :show-arrow="false"
    :offset="6"
  />
</template>

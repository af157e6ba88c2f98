<script setup lang="ts">
import { ElTooltip } from 'element-plus'
import { useEventListener } from '@vueuse/core'
import { computed, nextTick, shallowRef, watch } from 'vue'
import { hinted } from './hint'

/** The one tooltip of the workshop, beside whatever `v-hint` is pointed at. Escape puts it away (WCAG 1.4.13). */
const element = computed(() => hinted.value?.element)
/** The words stay while the tooltip goes. */
const text = shallowRef('')
watch(hinted, (now) => now && (text.value = now.text), { immediate: true })
// The tooltip describes whatever it was drawn for, and goes on to another: what each is for stands in its own description.
watch(
  hinted,
  async (now, before) => {
    await nextTick()
    for (const one of [now?.element, before?.element])
      if (/^el-id-/.test(one?.getAttribute('aria-describedby') ?? '')) one!.removeAttribute('aria-describedby')
  },
  { flush: 'post' },
)
useEventListener('keydown', ({ key }) => key === 'Escape' && (hinted.value = null))
</script>

<template>
  <ElTooltip
    :visible="hinted !== null"
    :content="text"
    :virtual-ref="element"
    virtual-triggering
    popper-class="hint"
    placement="bottom"
    :show-arrow="false"
    :offset="6"
  />
</template>

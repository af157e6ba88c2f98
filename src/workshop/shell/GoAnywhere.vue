<script setup lang="ts">
import { ElAutocomplete, ElDialog } from 'element-plus'
import { computed, nextTick, ref, useTemplateRef } from 'vue'
import { useRouter } from 'vue-router'
import { type Anything, everything, found } from './anything'

/** One line from which every place is reached and everything is done. */
const emit = defineEmits<{ close: [] }>()
const router = useRouter()
const isOpen = ref(true)
const typed = ref('')
/** How many options stand below the line: the box grows with them. */
const count = ref(0)
const OPTION_PX = 34
const MOST_PX = 280
const room = computed(() => `${Math.min(MOST_PX, count.value * OPTION_PX) + (count.value > 0 ? 28 : 0)}px`)
const line = useTemplateRef('line')
const all = everything(router)

function focus(): void {
  void nextTick(() => line.value?.focus())
}
/**
 * What is highlighted before any arrow key is not told to screen readers by the component, which names an option that is
 * not there instead.
 */
function suggest(text: string, show: (all: Anything[]) => void): void {
  const options = found(all, text)
  show(options)
  count.value = options.length
  void nextTick(() => {
    const input = (line.value?.inputRef as { ref?: HTMLInputElement } | undefined)?.ref
    const first = document.getElementById(`${input?.getAttribute('aria-controls')}-item-0`)
    if (first === null) input?.removeAttribute('aria-activedescendant')
    else input?.setAttribute('aria-activedescendant', first.id)
  })
}
async function take(one: Record<string, unknown>): Promise<void> {
  isOpen.value = false
  await (one as unknown as Anything).act()
  // What was done from here goes on in the work, wherever the line was opened.
  document.getElementById('main')?.focus({ preventScroll: true })
}
</script>

<template>
  <ElDialog
    v-model="isOpen"
    title="Go anywhere, do anything"
    width="min(620px, 94vw)"
    append-to-body
    @opened="focus"
    @closed="emit('close')"
  >
    <ElAutocomplete
      ref="line"
      v-model="typed"
      class="line"
      aria-label="Where to go, or what to do"
      placeholder="A form, a list, a place, something to do"
      highlight-first-item
      :debounce="0"
      :fetch-suggestions="suggest"
      @select="take"
    >
      <template #default="{ item }">
        <span class="one"
          ><span>{{ item.value }}</span> <span class="quiet small">{{ item.about }}</span></span
        >
      </template>
    </ElAutocomplete>
    <div aria-hidden="true" :style="{ height: room }" />
  </ElDialog>
</template>

<style scoped>
.line {
  width: 100%;
}
.one {
  display: flex;
  justify-content: space-between;
  gap: var(--gap-3);
}
.one > :first-child {
  overflow: hidden;
  text-overflow: ellipsis;
}
</style>

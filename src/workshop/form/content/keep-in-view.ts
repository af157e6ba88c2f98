import { useElementSize, useWindowSize } from '@vueuse/core'
import { computed, type ComputedRef, type Ref } from 'vue'

const EDGE_PX = 12

/**
 * Where a column has to stick, in CSS pixels from the window's top, so that it stays in view while its longer neighbour
 * is scrolled: a short one by its top, one taller than the window by its bottom, once that has been reached.
 */
export function useKeptInView(column: Ref<HTMLElement | null>): ComputedRef<string> {
  const { height } = useElementSize(column)
  const { height: window } = useWindowSize()
  return computed(() => `${Math.min(EDGE_PX, window.value - height.value - EDGE_PX)}px`)
}

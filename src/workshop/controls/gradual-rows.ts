import { useRafFn } from '@vueuse/core'
import { computed, type ComputedRef, ref, watch } from 'vue'

/**
 * Rows for a table that takes longer than a frame to draw: the first at once, some more with each frame.
 *
 * @param step so many fit on a screen
 */
export function useGradualRows<Row>(rows: () => readonly Row[], step = 15): ComputedRef<Row[]> {
  const count = ref(step)
  const growing = useRafFn(
    () => {
      count.value += step
      if (count.value >= rows().length) growing.pause()
    },
    { immediate: false },
  )
  watch(
    rows,
    ({ length }) => {
      count.value = step
      if (length > step) growing.resume()
    },
    { immediate: true },
  )
  return computed(() => rows().slice(0, count.value))
}

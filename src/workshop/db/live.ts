import { liveQuery } from 'dexie'
import { onScopeDispose, shallowRef, type ShallowRef, watch, type WatchSource } from 'vue'

/**
 * The result of a query, kept current: it runs again when the data it read changes, in this tab or another,
 * and when `sources` change. `initial` until the first result.
 */
export function useLive<T>(query: () => Promise<T>, initial: T, sources: WatchSource[] = []): Readonly<ShallowRef<T>> {
  const result = shallowRef(initial)
  let stop = () => {}
  watch(
    sources,
    () => {
      stop()
      const subscription = liveQuery(query).subscribe({
        next: (value) => (result.value = value),
        error: (error: unknown) => console.error(error),
      })
      stop = () => subscription.unsubscribe()
    },
    { immediate: true },
  )
  onScopeDispose(() => stop())
  return result
}

import { liveQuery, type ObservabilitySet } from 'dexie'
import { onScopeDispose, shallowRef, type ShallowRef, watch, type WatchSource } from 'vue'
import { database } from './database'

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

/**
 * Several queries whose results are shown together: what one transaction changed in several tables is never
 * seen in one of them before the others. A change runs only the queries that read what it changed.
 */
export function useLiveTogether<T extends Record<string, unknown>>(queries: {
  [Key in keyof T]: () => Promise<T[Key]>
}): { [Key in keyof T]: Readonly<ShallowRef<T[Key] | null>> } {
  let running = 0
  /** Nothing is shown before each was read once. */
  const unread = new Set<keyof T>(Object.keys(queries))
  const arrived = new Map<keyof T, () => void>()
  const entries = (Object.keys(queries) as (keyof T)[]).map((key) => {
    const result = shallowRef<T[typeof key] | null>(null)
    let newest = 0
    // Dexie starts every query that a transaction concerns before the first has read anything.
    const subscription = liveQuery(async () => {
      const mine = ++newest
      running += 1
      try {
        const value = await queries[key]()
        if (mine === newest) arrived.set(key, () => (result.value = value))
      } finally {
        running -= 1
        unread.delete(key)
        if (running === 0 && unread.size === 0) showArrived()
      }
    }).subscribe({ error: (error: unknown) => console.error(error) })
    onScopeDispose(() => subscription.unsubscribe())
    return [key, result]
  })

  function showArrived(): void {
    for (const show of arrived.values()) show()
    arrived.clear()
  }
  return Object.fromEntries(entries) as { [Key in keyof T]: Readonly<ShallowRef<T[Key] | null>> }
}

/** Whether what was written, here or in another tab, is in one of these tables. */
export function touches(parts: ObservabilitySet, tables: readonly string[]): boolean {
  return Object.entries(parts).some(
    ([part, ranges]) =>
      // Dexie tells of a write of nothing too, with an empty range.
      'from' in ranges &&
      (part === 'all' || tables.some((table) => part.startsWith(`idb://${database.name}/${table}/`))),
  )
}

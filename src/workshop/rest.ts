import { getCurrentScope, onScopeDispose, type ShallowRef, shallowRef, watch } from 'vue'

/*
 * What follows a keystroke once the hands rest (debounced work): saving to the receiver, the checkup, measuring, previews.
 * All of it waits in one queue with one timer. Each piece runs in a task of its own, so that a key never waits behind
 * more than one of them.
 */

interface Waiting {
  due: number
  /** However often it is put off, it runs then. */
  latest: number
}
const queue = new Map<() => unknown, Waiting>()
let timer: ReturnType<typeof setTimeout> | undefined

/**
 * Debounces work.
 *
 * @param restMs how long after the last call it runs
 * @param atLatestMs how long after the first call it runs in any case
 * @returns asks for it
 */
export function whenRested(work: () => unknown, restMs: number, atLatestMs = Infinity): () => void {
  if (getCurrentScope() !== undefined) onScopeDispose(() => queue.delete(work))
  return () => {
    const now = performance.now()
    const latest = queue.get(work)?.latest ?? now + atLatestMs
    // Asked for last, it runs last among those that are due together.
    queue.delete(work)
    queue.set(work, { due: Math.min(now + restMs, latest), latest })
    setTimer()
  }
}

/** A value as it was when the hands rested last. */
export function useRested<T>(source: () => T, restMs: number): Readonly<ShallowRef<T>> {
  const rested = shallowRef(source()) as ShallowRef<T>
  watch(
    source,
    whenRested(() => (rested.value = source()), restMs),
  )
  return rested
}

function setTimer(): void {
  clearTimeout(timer)
  if (queue.size === 0) return
  const next = Math.min(...[...queue.values()].map(({ due }) => due))
  timer = setTimeout(runNext, Math.max(0, next - performance.now()))
}

function runNext(): void {
  const now = performance.now()
  const due = [...queue]
    .filter(([, waiting]) => waiting.due <= now)
    .sort(([, one], [, other]) => one.due - other.due)[0]
  if (due !== undefined) queue.delete(due[0])
  setTimer()
  if (due === undefined) return
  try {
    // Work that fails later tells of it as any promise does.
    void due[0]()
  } catch (error) {
    reportError(error)
  }
}

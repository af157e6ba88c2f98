import { shallowRef, type ShallowRef, watch, type WatchSource } from 'vue'

/**
 * What is asked of the people worker, asked anew when a source changes; null until it is known. One question at a time:
 * while many changes come, each answer is of the newest state when it was asked, and no queue of questions builds up.
 */
export function useAsked<Answer>(
  sources: WatchSource[],
  ask: () => Promise<Answer> | null,
): Readonly<ShallowRef<Answer | null>> {
  const answer = shallowRef<Answer | null>(null)
  let isAsking = false
  let isStale = false
  async function askNow(): Promise<void> {
    if (isAsking) return void (isStale = true)
    isAsking = true
    try {
      do {
        isStale = false
        const next = await ask()
        // Of what was asked for meanwhile, only the last is shown.
        if (next !== null && !isStale) answer.value = next
      } while (isStale)
    } finally {
      isAsking = false
    }
  }
  watch(sources, askNow, { immediate: true })
  return answer
}

import { computed, onScopeDispose, shallowRef } from 'vue'
import { useNotices } from '../notices'
import { isStopped, type Task } from '../worker-calls'

/** Something long that is going on, told and ended in one place of a screen. */
export function useLongWork() {
  const notices = useNotices()
  const current = shallowRef<{ what: string; share: number } | null>(null)
  let stopper: AbortController | null = null
  let endsWithPage = true
  onScopeDispose(() => endsWithPage && stopper?.abort())

  /**
   * Does it, and resolves with what it came to; with null where it was stopped or failed, which is told.
   *
   * @param what is done, in words: “Tagging 12 people”
   * @param goesOn whether it goes on though its owner leaves the page: half of a change is worse than none
   */
  async function run<Result>(
    what: string,
    work: (task: Task) => Promise<Result>,
    goesOn = false,
  ): Promise<Result | null> {
    stopper = new AbortController()
    endsWithPage = !goesOn
    current.value = { what, share: 0 }
    try {
      return await work({ tell: (share) => (current.value = { what, share }), signal: stopper.signal })
    } catch (error) {
      if (isStopped(error)) notices.done('Stopped; nothing was changed.')
      else notices.problem(error instanceof Error ? error.message : String(error))
      return null
    } finally {
      current.value = null
      stopper = null
    }
  }

  return { current, isWorking: computed(() => current.value !== null), run, stop: () => stopper?.abort() }
}

export type LongWork = ReturnType<typeof useLongWork>

import { ref } from 'vue'
import { useNotices } from '../notices'
import { type refillReceiver, useReceiver } from '../sync'

/** Long work that gives the receiver what is here: told how far it is, stopped, and gone on with. */
export function useFilling() {
  const receiver = useReceiver()
  const notices = useNotices()
  const progress = ref<number | null>(null)
  const stop = ref<AbortController | null>(null)

  async function fill(work: typeof refillReceiver): Promise<void> {
    if (receiver.pairing === null) return
    stop.value = new AbortController()
    progress.value = 0
    try {
      await work({ ...receiver.pairing }, (share) => (progress.value = share), stop.value.signal)
      notices.done(
        stop.value.signal.aborted
          ? 'Stopped. It can go on from here at any time.'
          : 'The receiver has everything that is here.',
      )
    } catch (error) {
      notices.problem(`The receiver has not got everything: ${error instanceof Error ? error.message : 'no answer'}`)
    } finally {
      progress.value = null
      receiver.reconnect()
    }
  }
  return { progress, fill, stop: () => stop.value?.abort() }
}

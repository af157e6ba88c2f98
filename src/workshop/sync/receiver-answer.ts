import { useDocumentVisibility, useIntervalFn } from '@vueuse/core'
import { ref, shallowRef } from 'vue'
import { clientFor, type Client } from '../client'
import { useReceiver } from './receiver'

const LOOK_MS = 2_000

/** Asks the receiver now, and again and again while the page is seen. */
export function useReceiverAnswer<T>(ask: (client: Client) => Promise<T>, everyMs = LOOK_MS) {
  const receiver = useReceiver()
  const answer = shallowRef<T | null>(null)
  const problem = ref('')
  const visibility = useDocumentVisibility()

  async function look(): Promise<void> {
    if (receiver.pairing === null) return
    try {
      answer.value = await ask(clientFor({ ...receiver.pairing }))
      problem.value = ''
    } catch (error) {
      problem.value = error instanceof Error ? error.message : String(error)
    }
  }
  void look()
  useIntervalFn(() => void (visibility.value === 'visible' && look()), everyMs)
  return { answer, problem, look }
}

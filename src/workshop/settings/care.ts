import { onMounted, shallowRef } from 'vue'
import type { CareState } from '#core/api'
import { clientFor } from '../client'
import { useNotices } from '../notices'
import { useReceiver } from '../sync'

/** What the receiver does for its owner by itself; null until it answers. */
export function useCare() {
  const receiver = useReceiver()
  const notices = useNotices()
  const care = shallowRef<CareState | null>(null)
  const client = () => (receiver.pairing === null ? null : clientFor({ ...receiver.pairing }))
  onMounted(
    async () =>
      (care.value =
        (await client()
          ?.care()
          .catch(() => null)) ?? null),
  )
  async function set(change: () => Promise<CareState> | undefined): Promise<void> {
    try {
      care.value = (await change()) ?? care.value
    } catch (error) {
      notices.problem(`Not set: ${error instanceof Error ? error.message : 'no answer'}`)
    }
  }
  return { care, client, set }
}

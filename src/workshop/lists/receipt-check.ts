import type { ListId } from '#core/ids'
import { clientFor, type Pairing, ReceiverProblem } from '../client'
import { readSetting } from '../data'
import { useMembers } from '../people'
import { type Task, throwIfStopped } from '../worker-calls'

export type ReceiptCheck =
  | { state: 'whole'; receipts: number }
  /** An entry is not as it was written. */
  | { state: 'changed'; n: number; at: string }
  /** The journal is whole, and somebody is kept otherwise than it tells; empty where somebody is missing. */
  | { state: 'row-changed'; list: ListId; email: string }
  /** All of it was written anew since this workshop saw it. */
  | { state: 'other-history' }

/**
 * Has the receiver compute the marks of its whole journal anew, and compares the last one that is known here: an entry that
 * was changed shows by the first, a journal that was written anew by the second. Then everybody is held against the journal.
 */
export async function checkReceipts(
  pairing: Pairing,
  lists: readonly ListId[],
  { tell, signal }: Task,
): Promise<ReceiptCheck> {
  const client = clientFor(pairing)
  let receipts = 0
  for (let after = 0; ;) {
    throwIfStopped({ signal })
    const stretch = await client.checkJournal(after)
    receipts += stretch.receipts
    if (stretch.broken !== null) return { state: 'changed', ...stretch.broken }
    tell(stretch.latest === 0 ? 1 : stretch.cursor / stretch.latest)
    if (stretch.cursor >= stretch.latest) break
    after = stretch.cursor
  }
  const here = await readSetting('journal')
  if (here !== undefined && here.mark !== null)
    try {
      await client.entriesAfter(here.cursor, here.mark, 1)
    } catch (error) {
      if (error instanceof ReceiverProblem && error.status === 409) return { state: 'other-history' }
      throw error
    }
  const changed = await useMembers().work('checkMembers', { tell: () => {}, signal }, pairing, [...lists])
  if (changed !== null) return { state: 'row-changed', ...changed }
  return { state: 'whole', receipts }
}

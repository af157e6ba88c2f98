import type { JournalCheck } from '#core/api'
import { isReceipt } from '#core/journal'
import { markAfter } from './journal-marks'
import type { Transaction } from '../subjects'

/** Looked over without holding up sign-ups: some 50 ms. */
const AT_ONCE = 1_000

/** Computes the marks anew of the entries after a number, and compares them with those that were written. */
export async function checkStretch(store: Transaction, after: number): Promise<JournalCheck> {
  const [page, newest] = [await store.entriesAfter(after, AT_ONCE), await store.newestEntry()]
  let before = after === 0 ? '' : ((await store.markAt(after)) ?? '')
  let cursor = after
  let receipts = 0
  for (const { entry, mark } of page) {
    const { n, ...rest } = entry
    // One that was taken out leaves a gap.
    if (n !== cursor + 1 || markAfter(before, n, rest) !== mark)
      return { cursor: n, latest: newest.n, receipts, broken: { n, at: entry.at }, mark }
    if (isReceipt(entry)) receipts += 1
    cursor = n
    before = mark
  }
  return { cursor, latest: newest.n, receipts, broken: null, mark: before }
}

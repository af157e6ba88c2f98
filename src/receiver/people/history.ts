import type { JournalCheck } from '#core/api'
import type { JournalId } from '#core/ids'
import type { Entry } from '#core/journal'
import { type HistoryPage, isSameHistory } from '../page'
import { newId } from '../random'
import type { Writing } from '../writing'
import { checkStretch } from './check'
import { journalId, keepJournalId } from './identity'
import { type Recovered, type Refilling, RefillProblem, type RefillResult } from './refill'

/** The journal as it is read, and taken in from where it is kept as well. */
export interface History {
  journalId(): Promise<JournalId>
  /** Entries with numbers above `after`. Null when `mark` is not the one that this journal has at `after`. */
  entriesAfter(after: number, mark: string | null, limit: number): Promise<HistoryPage<Entry> | null>
  /** The same, all of them as the inside of a JSON array. */
  entriesTextAfter(
    after: number,
    mark: string | null,
    limit: number,
  ): Promise<(Omit<HistoryPage<never>, 'items'> & { text: string }) | null>
  /** Whether some thousand entries after a number are as they were written. */
  check(after: number): Promise<JournalCheck>
  /** Number of the newest entry, 0 for an empty journal. */
  latest(): Promise<number>
  /** The mark of an entry; null where there is none. */
  markAt(n: number): Promise<string | null>
  /** Continues an empty or partly refilled journal from a copy of it. Entries must follow the newest one here. */
  refill(journal: JournalId, entries: readonly Entry[]): Promise<RefillResult>
  /** Appends the entries that a copy of the journal has after `common`, the last entry of both. */
  recover(common: number, entries: readonly Entry[]): Promise<Recovered>
}

export async function openHistory({ engine, runAsIs, now }: Writing, refilling: Refilling): Promise<History> {
  await engine.run(async (transaction) => {
    if ((await journalId(transaction)) === null) await keepJournalId(transaction, newId<JournalId>())
  })
  /** What the journal ends with, and the mark at a number; null where another history has that number. */
  async function upTo(after: number, mark: string | null): Promise<{ latest: number; here: string } | null> {
    const [newest, here] = await Promise.all([engine.now.newestEntry(), engine.now.markAt(after)])
    return after > newest.n || !isSameHistory(mark, after, here) ? null : { latest: newest.n, here: here ?? '' }
  }
  return {
    journalId: async () => (await journalId(engine.now))!,
    check: (after) => checkStretch(engine.now, after),
    latest: async () => (await engine.now.newestEntry()).n,
    markAt: (n) => engine.now.markAt(n),
    async entriesAfter(after, mark, limit) {
      const known = await upTo(after, mark)
      if (known === null) return null
      const page = await engine.now.entriesAfter(after, limit)
      const last = page.at(-1)
      return {
        items: page.map(({ entry }) => entry),
        cursor: last?.entry.n ?? after,
        mark: last?.mark ?? known.here,
        latest: known.latest,
      }
    },
    async entriesTextAfter(after, mark, limit) {
      const known = await upTo(after, mark)
      if (known === null) return null
      const page = await engine.now.entriesTextAfter(after, limit)
      if (page === null) return { text: '', cursor: after, mark: known.here, latest: known.latest }
      const { n, text } = page
      return { text, cursor: n, mark: (await engine.now.markAt(n))!, latest: known.latest }
    },
    refill: (id, entries) =>
      runAsIs(async (transaction) => refilling.refill(transaction, (await journalId(transaction))!, id, entries)).catch(
        (error: unknown) => {
          if (error instanceof RefillProblem) return error.result
          throw error
        },
      ),
    recover: (common, entries) => runAsIs((transaction) => refilling.recover(transaction, common, entries, now())),
  }
}

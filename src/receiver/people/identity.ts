import type { JournalId } from '#core/ids'
import type { ValueQueries } from '../values'
import type { PeopleQueries } from './tables'

const JOURNAL_ID = 'journal'
const TOUCHED = 'touched'
/** For values that are kept for ever. */
const EVER = 0

export const journalId = (stored: Pick<ValueQueries, 'value'>) =>
  stored.value(JOURNAL_ID, EVER) as Promise<JournalId | null>

export const keepJournalId = (stored: Pick<ValueQueries, 'keepValue'>, id: JournalId) =>
  stored.keepValue(JOURNAL_ID, id, null)

/**
 * The latest time that anything here bears, in milliseconds since 1970: of an entry, or of a touch; null where there is
 * nothing yet.
 */
export async function lastWritten(
  stored: Pick<PeopleQueries, 'newestEntry' | 'entriesAfter'> & Pick<ValueQueries, 'value'>,
): Promise<number | null> {
  const { n } = await stored.newestEntry()
  const [newest] = await stored.entriesAfter(n - 1, 1)
  const touched = (await stored.value(TOUCHED, EVER)) as number | null
  return Math.max(newest === undefined ? 0 : Date.parse(newest.entry.at), touched ?? 0) || null
}

/** Writes something small, so that a disk that takes nothing more is noticed. */
export const touch = (stored: Pick<ValueQueries, 'keepValue'>, at: number) => stored.keepValue(TOUCHED, at, null)

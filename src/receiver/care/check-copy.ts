import type { NewEntry } from '#core/journal'
import { isAsWritten, markAfter } from '../people'
import { entryOf } from '../people/tables'
import { Damaged, LibsqlDatabase } from '../store'

/** A copy that was opened and read through. */
export interface CheckedCopy {
  /** How many entries its journal has, which is the number of the last. */
  entries: number
  /** The mark of the last entry; empty where there is none. */
  mark: string
}

/**
 * Reads a copy through: its pages and indexes as SQLite does, its journal by the marks of its entries, its members by their
 * digests.
 *
 * @throws Damaged, or an error of SQLite's, for a copy that is not whole
 */
export function checkCopy(file: string): CheckedCopy {
  const database = new LibsqlDatabase(file)
  try {
    const verdict = database.prepare('PRAGMA integrity_check(3)').all([])
    const said = verdict.map((row) => String(row.integrity_check)).join('; ')
    if (said !== 'ok') throw new Damaged(said)
    let changed = 0
    for (const row of database.prepare('SELECT id, body FROM members').iterate([])) {
      const { id, body } = row as { id: string; body: string }
      if (!isAsWritten(id, body)) changed += 1
    }
    if (changed > 0)
      throw new Damaged(`${changed === 1 ? 'One person is' : `${changed} people are`} not as they were written.`)
    return checkedJournal(database)
  } finally {
    database.close()
  }
}

function checkedJournal(database: LibsqlDatabase): CheckedCopy {
  const last = { entries: 0, mark: '' }
  for (const row of database.prepare('SELECT n, body, personal, mark FROM journal ORDER BY n').iterate([])) {
    const n = last.entries + 1
    const broken = () => new Damaged(`The journal is not as it was written, as of event ${n}.`)
    let entry: NewEntry
    try {
      const { n: number, ...rest } = entryOf(row as Record<string, unknown>).entry
      if (number !== n) throw broken()
      entry = rest as NewEntry
    } catch {
      throw broken()
    }
    const { mark } = row as { mark: string }
    if (markAfter(last.mark, n, entry) !== mark) throw broken()
    last.entries = n
    last.mark = mark
  }
  return last
}

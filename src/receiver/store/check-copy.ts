import type { NewEntry } from '#core/journal'
import { markAfter } from '../journal-marks'
import { LibsqlDatabase } from './libsql'
import { entryOf } from './transaction'

/** A copy that was opened and read through. */
export interface CheckedCopy {
  /** How many entries its journal has, which is the number of the last. */
  entries: number
  /** The mark of the last entry; empty where there is none. */
  mark: string
}

/** What was read is not what was written. */
export class Damaged extends Error {
  readonly code = 'DAMAGED'
}

/** SQLite's own names for a file that is not as it was written. */
const BROKEN = /^(?:SQLITE_CORRUPT|SQLITE_NOTADB|DAMAGED)/
const BROKEN_WORDS = /^(?:database disk image is malformed|file is not a database)/

/** Whether what failed says that the store's file is damaged, and not that there was no room, or no right, to read it. */
export function isDamage(error: unknown): boolean {
  const { code, message } = (error ?? {}) as { code?: unknown; message?: unknown }
  // Between threads, an error keeps nothing but its words.
  return (typeof code === 'string' && BROKEN.test(code)) || BROKEN_WORDS.test(String(message))
}

/**
 * Reads a copy through: its pages and indexes as SQLite does, its journal by the marks of its entries, its members by their
 * spelling.
 *
 * @throws Damaged, or an error of SQLite's, for a copy that is not whole
 */
export function checkCopy(file: string): CheckedCopy {
  const database = new LibsqlDatabase(file)
  try {
    const verdict = database.prepare('PRAGMA integrity_check(3)').all([])
    const said = verdict.map((row) => String(row.integrity_check)).join('; ')
    if (said !== 'ok') throw new Damaged(said)
    const unreadable = database.prepare('SELECT count(*) AS count FROM members WHERE NOT json_valid(body)').get([])
    if (Number(unreadable?.count) > 0) throw new Damaged(`${Number(unreadable?.count)} people cannot be read.`)
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

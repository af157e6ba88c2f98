import { LibsqlDatabase } from './libsql'

/** A copy that was opened and read through. */
export interface CheckedCopy {
  /** How many entries its journal has. */
  entries: number
}

/** @throws Error where a copy cannot be read, or is not whole */
export function checkCopy(file: string): CheckedCopy {
  const database = new LibsqlDatabase(file)
  try {
    const verdict = database.prepare('PRAGMA integrity_check').get([])?.integrity_check
    if (verdict !== 'ok') throw new Error(`The copy is damaged: ${String(verdict)}`)
    return { entries: Number(database.prepare('SELECT count(*) AS count FROM journal').get([])?.count) }
  } finally {
    database.close()
  }
}

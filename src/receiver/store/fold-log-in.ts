import { LibsqlDatabase } from './libsql'

/** Makes one whole file of a database and its write-ahead log. */
export function foldLogIn(file: string): void {
  const database = new LibsqlDatabase(file)
  try {
    // Read first: the package opens without looking.
    database.prepare('SELECT count(*) FROM sqlite_master').get([])
    database.exec('PRAGMA journal_mode = DELETE')
  } finally {
    database.close()
  }
}

import Database from 'libsql'
import { boundValue } from './bound-value'

export interface DriverStatement {
  all(...values: unknown[]): Record<string, unknown>[]
  get(...values: unknown[]): Record<string, unknown> | undefined
  run(...values: unknown[]): { changes: number; lastInsertRowid: number }
}

/**
 * The only place that touches the `libsql` package. The package aborts the whole process on a boolean
 * parameter, takes a lone null for a bag of named parameters (so parameters go in an array), loses integers beyond 2^53 and cuts text at NUL when reading, so each bound value is converted
 * or refused here. It turns a number bound to a TEXT column into `5.0`: bind text to text columns.
 */
export class LibsqlDatabase {
  private readonly database: Database.Database

  constructor(file: string) {
    this.database = new Database(file)
  }

  exec(sql: string): void {
    this.database.exec(sql)
  }

  prepare(
    sql: string,
  ): DriverStatement & { reader: boolean; iterate(values: readonly unknown[]): IterableIterator<unknown> } {
    const statement = this.database.prepare(sql)
    const bind = (values: unknown[]) =>
      (values.length === 1 && Array.isArray(values[0]) ? values[0] : values).map(boundValue)
    return {
      reader: statement.reader,
      all: (...values) => statement.all(bind(values)) as Record<string, unknown>[],
      get: (...values) => statement.get(bind(values)) as Record<string, unknown> | undefined,
      run: (...values) => {
        const { changes, lastInsertRowid } = statement.run(bind(values))
        return { changes, lastInsertRowid: Number(lastInsertRowid) }
      },
      iterate: (values) => statement.iterate(bind([values])) as IterableIterator<unknown>,
    }
  }

  /** Closes and lets go of the file: the package leaves the lock to the garbage collector while statements exist. */
  close(): void {
    try {
      this.database.exec('PRAGMA journal_mode = DELETE; PRAGMA locking_mode = NORMAL;')
      this.database.prepare('SELECT count(*) FROM sqlite_master').get([])
    } catch {
      // The file was never ours to lock.
    }
    this.database.close()
  }
}

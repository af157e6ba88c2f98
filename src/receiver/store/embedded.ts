import {
  chmodSync,
  closeSync,
  createReadStream,
  existsSync,
  mkdirSync,
  openSync,
  readdirSync,
  rmSync,
  statfsSync,
} from 'node:fs'
import { join } from 'node:path'
import { Kysely, SqliteDialect } from 'kysely'
import type { Row, SubjectTables } from './database'
import { type Engine, readBetween } from './engine'
import { copyDatabase } from './copy'
import { GroupCommit, groupStatements } from './group-commit'
import { LibsqlDatabase } from './libsql'
import { bringUp } from './migrations'
import { occurrencesIn } from './occurrences'
import { queriesOver } from './queries'
import type { RawDatabase } from './raw'

const FILE = 'askbox.sqlite'
/** What copies are called while they are made and handed out. */
const COPY = /^copy-[\w-]+\.sqlite(?:-\w+)?$/
/** Members' ids and addresses have no order, so each sign-up meets other pages of their indexes. */
const CACHE_KB = 32 * 1024
/**
 * Written back into the file after so many pages (16 MB) instead of SQLite's usual 1,000: each sign-up changes some ten,
 * and most of them change again soon.
 */
const CHECKPOINT_PAGES = 4_000

/** Another process has the data folder open: two receivers on one journal would tear it apart. */
export class DataFolderInUse extends Error {
  constructor(folder: string) {
    super(
      `The data folder ${folder} is in use by another receiver. Stop that one, or set ASKBOX_DATA to another folder.`,
    )
  }
}

/**
 * The engine in one SQLite file. Write-ahead log with full sync: what was answered survives the process and
 * the power. The file is held in exclusive mode, which is the lock on the data folder and ends with the
 * process, however it ends. Its files are their owner's alone: they hold people's addresses.
 *
 * @param tables of all subjects
 * @param copyThread built program that finishes copies; see `copyDatabase`
 * @throws DataFolderInUse
 */
export async function openEmbeddedEngine<Queries extends object>(
  folder: string,
  tables: readonly SubjectTables<unknown>[],
  copyThread?: string,
): Promise<Engine<Queries>> {
  mkdirSync(folder, { recursive: true, mode: 0o700 })
  const file = join(folder, FILE)
  const database = new LibsqlDatabase(file)
  try {
    database.exec('PRAGMA locking_mode = EXCLUSIVE; PRAGMA journal_mode = WAL; PRAGMA synchronous = FULL;')
    // Deleted content is overwritten in the file too.
    database.exec('PRAGMA secure_delete = ON')
    database.exec(`PRAGMA cache_size = -${CACHE_KB}; PRAGMA wal_autocheckpoint = ${CHECKPOINT_PAGES};`)
    // Exclusive mode takes its lock with the first write.
    database.exec('BEGIN IMMEDIATE; COMMIT;')
    // Of a process that ended while it copied: they hold everybody's addresses.
    for (const name of readdirSync(folder)) if (COPY.test(name)) rmSync(join(folder, name), { force: true })
    for (const one of [file, `${file}-wal`, `${file}-shm`]) if (existsSync(one)) chmodSync(one, 0o600)
  } catch (error) {
    database.close()
    if ((error as { code?: string }).code === 'SQLITE_BUSY') throw new DataFolderInUse(folder)
    throw error
  }
  const kysely = new Kysely<unknown>({
    dialect: new SqliteDialect({ database: { close: () => {}, prepare: (sql) => database.prepare(sql) } }),
  })
  try {
    await migrate(database, kysely, tables)
    const queries = queriesOver<Queries>(tables, kysely, (text) => database.prepare(text))
    return embeddedEngine(folder, database, queries, copyThread)
  } catch (error) {
    database.close()
    throw error
  }
}

/** The database asked in plain SQL. */
function rawOver(database: LibsqlDatabase, commits: GroupCommit): RawDatabase {
  const ask = async (sql: string, values: readonly unknown[] = []): Promise<Row[]> => {
    const statement = database.prepare(sql)
    if (statement.reader) return statement.all([...values])
    statement.run([...values])
    return []
  }
  return {
    kind: 'sqlite',
    async read(sql, values) {
      for (let busy = commits.idle(); busy !== null; busy = commits.idle()) await busy
      return ask(sql, values)
    },
    write: (work) => commits.run(() => work(ask)),
    // The lock on the data folder keeps them out.
    others: async () => 0,
    async shapes() {
      const tables = await ask(
        "SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%' ORDER BY name",
      )
      return Promise.all(
        tables.map(async ({ name }) => {
          const columns = await ask(`PRAGMA table_info("${String(name)}")`)
          const key = columns
            .filter(({ pk }) => Number(pk) > 0)
            .toSorted((one, other) => Number(one.pk) - Number(other.pk))
          const named = (some: readonly Row[]) => some.map((column) => String(column.name))
          return { name: String(name), columns: named(columns), key: named(key) }
        }),
      )
    },
  }
}

/** All the steps that are missing, or none: a start that is interrupted leaves the file as it was. */
async function migrate(
  database: LibsqlDatabase,
  kysely: Kysely<unknown>,
  tables: readonly SubjectTables<unknown>[],
): Promise<void> {
  database.exec('BEGIN IMMEDIATE')
  try {
    await bringUp(kysely, tables)
    database.exec('COMMIT')
  } catch (error) {
    try {
      database.exec('ROLLBACK')
    } catch {
      // The failed statement has already ended the transaction.
    }
    throw error
  }
}

function embeddedEngine<Queries extends object>(
  folder: string,
  database: LibsqlDatabase,
  queries: Queries,
  copyThread: string | undefined,
): Engine<Queries> {
  const file = join(folder, FILE)
  let source: number | null = null
  let copying: Promise<void> = Promise.resolve()
  let committed = (_writes: number) => {}
  const commits = new GroupCommit(groupStatements(database), (writes) => committed(writes))
  return {
    run: (work) => commits.run(() => work(queries)),
    now: readBetween(queries, () => commits.idle()),
    isShared: false,
    connections: () => null,
    raw: () => rawOver(database, commits),
    room() {
      const { bavail, bsize } = statfsSync(folder)
      return bavail * bsize
    },
    copyTo(target) {
      // Kept open until the store is closed: closing it would end the lock on the data folder.
      source ??= openSync(file, 'r')
      const opened = source
      const copy = copying.then(async () => {
        database.exec('PRAGMA wal_autocheckpoint = 0')
        try {
          await copyDatabase(opened, `${file}-wal`, target, copyThread)
        } finally {
          database.exec(`PRAGMA wal_autocheckpoint = ${CHECKPOINT_PAGES}`)
        }
      })
      copying = copy.catch(() => {})
      return copy
    },
    async occurrences(texts) {
      await copying
      // All that the log has goes into the file, and the log is emptied.
      await commits.run(async () => undefined)
      database.exec('PRAGMA wal_checkpoint(TRUNCATE)')
      // By the handle that stays open, as for copies.
      source ??= openSync(file, 'r')
      const wal = `${file}-wal`
      const inFile = await occurrencesIn(createReadStream(file, { fd: source, autoClose: false, start: 0 }), texts)
      return inFile + (existsSync(wal) ? await occurrencesIn(createReadStream(wal), texts) : 0)
    },
    onCommit: (listener) => (committed = listener),
    // The lock on the data folder keeps every other process out.
    onCommitElsewhere: () => {},
    async close() {
      await copying
      await commits.run(async () => undefined)
      database.close()
      if (source !== null) closeSync(source)
    },
  }
}

import {
  CompiledQuery,
  type DatabaseConnection,
  type Driver,
  Kysely,
  PostgresAdapter,
  PostgresIntrospector,
  PostgresQueryCompiler,
  type QueryResult,
} from 'kysely'
import { newId } from '../random'
import { boundValue } from './bound-value'
import type { Row, Statement, SubjectTables } from './database'
import { type Engine, readBetween } from './engine'
import { bringUp } from './migrations'
import { queriesOver } from './queries'

/** One connection to a PostgreSQL server, or to one in this process. */
export interface PostgresConnection {
  query(text: string, values: unknown[]): Promise<{ rows: Row[]; changed: number }>
  /** Calls `heard` with each notification on a channel, own ones too. */
  listen(channel: string, heard: (told: string) => void): Promise<void>
  close(): Promise<void>
}

/** Advisory lock of writers: a journal number is committed before the next is given. Any number of our own. */
const WRITING_LOCK = 421_207
const CHANNEL = 'askbox_commit'

/**
 * The engine in a PostgreSQL database, which several receivers may share. Each piece of work is a transaction of its own,
 * one after the other. Names have to sort by their bytes: the database's collation is `C` or `C.UTF-8`.
 */
export async function openPostgresEngine<Queries extends object>(
  connection: PostgresConnection,
  tables: readonly SubjectTables<unknown>[],
): Promise<Engine<Queries>> {
  const kysely = new Kysely<unknown>({
    dialect: {
      createAdapter: () => new PostgresAdapter(),
      createDriver: () => new OneConnection(connection),
      createIntrospector: (db) => new PostgresIntrospector(db),
      createQueryCompiler: () => new PostgresQueryCompiler(),
    },
  })
  await bringUp(kysely, tables)
  const queries = queriesOver<Queries>(tables, kysely, (text) => statementOf(connection, text))
  const me = newId<string>()
  let committed = () => {}
  let committedElsewhere = () => {}
  let writing: Promise<void> | null = null
  let last: Promise<unknown> = Promise.resolve()
  await connection.listen(CHANNEL, (told) => {
    if (told !== me) committedElsewhere()
  })

  async function runOne<T>(work: () => Promise<T>): Promise<T> {
    let end = () => {}
    writing = new Promise((resolve) => (end = resolve))
    try {
      await connection.query('BEGIN', [])
      await connection.query(`SELECT pg_advisory_xact_lock(${WRITING_LOCK})`, [])
      const result = await work()
      await connection.query('SELECT pg_notify($1, $2)', [CHANNEL, me])
      await connection.query('COMMIT', [])
      return result
    } catch (error) {
      await connection.query('ROLLBACK', [])
      throw error
    } finally {
      writing = null
      end()
    }
  }
  return {
    run(work) {
      const result = last.then(() => runOne(() => work(queries)))
      last = result.catch(() => {})
      return result.then((value) => {
        committed()
        return value
      })
    },
    now: readBetween(queries, () => writing),
    room: () => null,
    occurrences: async () => null,
    copyTo: () => Promise.reject(new Error('A database server is copied by its own tools.')),
    onCommit: (listener) => (committed = listener),
    onCommitElsewhere: (listener) => (committedElsewhere = listener),
    async close() {
      // Others may commit until the connection has ended.
      committedElsewhere = () => {}
      await last
      await connection.close()
    },
  }
}

/** A statement over a connection; parameters are `$1`, `$2` in its text. */
function statementOf(connection: PostgresConnection, text: string): Statement {
  const ask = (values: unknown[]) => connection.query(text, values.map(boundValue))
  return {
    get: async (...values) => (await ask(values)).rows[0],
    all: async (...values) => (await ask(values)).rows,
    run: async (...values) => ({ changes: (await ask(values)).changed }),
  }
}

/** What Kysely runs its migrations over. */
class OneConnection implements Driver {
  constructor(private readonly connection: PostgresConnection) {}

  async init(): Promise<void> {}
  async acquireConnection(): Promise<DatabaseConnection> {
    const { connection } = this
    return {
      async executeQuery<R>({ sql, parameters }: CompiledQuery): Promise<QueryResult<R>> {
        const { rows, changed } = await connection.query(sql, [...parameters])
        return { rows: rows as R[], numAffectedRows: BigInt(changed) }
      },
      async *streamQuery() {},
    }
  }
  async beginTransaction(connection: DatabaseConnection): Promise<void> {
    await connection.executeQuery(CompiledQuery.raw('BEGIN'))
  }
  async commitTransaction(connection: DatabaseConnection): Promise<void> {
    await connection.executeQuery(CompiledQuery.raw('COMMIT'))
  }
  async rollbackTransaction(connection: DatabaseConnection): Promise<void> {
    await connection.executeQuery(CompiledQuery.raw('ROLLBACK'))
  }
  async releaseConnection(): Promise<void> {}
  async destroy(): Promise<void> {}
}

import {
  type CompiledQuery,
  type DatabaseConnection,
  type Driver,
  DummyDriver,
  Kysely,
  PostgresAdapter,
  PostgresIntrospector,
  PostgresQueryCompiler,
  type QueryResult,
} from 'kysely'
import type { PoolClient } from 'pg'
import { boundValue } from '../bound-value'
import type { Row, Statement, SubjectTables } from '../database'
import type { Engine } from '../engine'
import { gathered, type Gathering } from '../gathering'
import { DoubtfulCommit, GroupCommit } from '../group-commit'
import { bringUp } from '../migrations'
import { queriesOver } from '../queries'
import { numbered, type TableShape } from '../raw'
import type { PostgresAddress } from './address'
import { isLost, PostgresServer } from './server'

/** Advisory locks: of who writes, so that a journal number is committed before the next is given, and of who makes tables. Any numbers of our own. */
const WRITING_LOCK = 421_207
const MIGRATION_LOCK = 421_208
const CHANNEL = 'askbox_commit'

/**
 * The engine in a PostgreSQL database, which several receivers may share. Reads go over a pool and wait for nobody; writes that
 * come together share a transaction and its commit, under the lock of writers, so that numbers are without gaps and are never
 * seen out of order.
 *
 * @throws ServerUnusable
 */
export async function openPostgresEngine<Queries extends object>(
  address: PostgresAddress,
  tables: readonly SubjectTables<unknown>[],
): Promise<Engine<Queries>> {
  const server = await PostgresServer.open(address)
  try {
    await migrate(server, tables)
  } catch (error) {
    await server.close()
    throw error
  }
  const compiler = kyselyOver(() => new DummyDriver())
  const reading = queriesOver<Queries>(
    tables,
    compiler,
    statements('r', (name, text, values) => server.query(name, text, values)),
  )
  const writer = new Writer(server)
  const prepare = statements('w', (name, text, values) => writer.query(name, text, values))
  const ask = async (sql: string, values: readonly unknown[]) => (await writer.prepared(numbered(sql), values)).rows
  const subjects = tables.map((one) => {
    const queries = queriesOver<object>([one], compiler, prepare)
    return { queries, gathering: (one.gather?.(queries, ask) as Gathering<object> | undefined) ?? null }
  })
  const writing = Object.assign({}, ...subjects.map(({ queries }) => queries)) as Queries
  const together = gathered<Queries>(subjects)
  writer.together = together
  let committed = (_writes: number) => {}
  let committedElsewhere = () => {}
  const commits = new GroupCommit(writer, (writes) => committed(writes))
  try {
    await server.listen(CHANNEL, (told) => {
      if (told !== server.me) committedElsewhere()
    })
  } catch (error) {
    await server.close()
    throw error
  }
  return {
    run: (work, about) => commits.run(() => work(writer.isTogether ? together.queries : writing), about),
    now: reading,
    isShared: true,
    connections: () => server.connections(),
    raw: () => ({
      kind: 'postgres',
      read: async (sql, values = []) => (await server.ask(numbered(sql), values.map(boundValue))).rows,
      write: (work) =>
        commits.run(() =>
          work(async (sql, values = []) => {
            await together.flush()
            return (await writer.ask(numbered(sql), values.map(boundValue))).rows
          }),
        ),
      shapes: () => shapesOf((sql) => server.ask(sql, [])),
      others: () => server.others(),
    }),
    room: () => null,
    occurrences: async () => null,
    copyTo: () => Promise.reject(new Error('A database server is copied by its own tools.')),
    onCommit: (listener) => (committed = listener),
    onCommitElsewhere: (listener) => (committedElsewhere = listener),
    async close() {
      // Others may commit until the connections have ended.
      committedElsewhere = () => {}
      await commits.run(async () => undefined).catch(() => {})
      await server.close()
    },
  }
}

/** PostgreSQL's documentation, chapter “The Information Schema”. */
async function shapesOf(ask: (sql: string) => Promise<{ rows: Row[] }>): Promise<TableShape[]> {
  const { rows } = await ask(`
    SELECT c.table_name AS name, c.column_name AS column, k.ordinal_position AS place
    FROM information_schema.columns c
    JOIN information_schema.tables t USING (table_schema, table_name)
    LEFT JOIN (
      SELECT u.table_name, u.column_name, u.ordinal_position FROM information_schema.key_column_usage u
      JOIN information_schema.table_constraints p USING (constraint_schema, constraint_name)
      WHERE p.constraint_type = 'PRIMARY KEY' AND u.table_schema = current_schema()
    ) k ON k.table_name = c.table_name AND k.column_name = c.column_name
    WHERE c.table_schema = current_schema() AND t.table_type = 'BASE TABLE'
    ORDER BY c.table_name, c.ordinal_position`)
  return [...new Set(rows.map(({ name }) => String(name)))].map((name) =>
    shapeOf(
      name,
      rows.filter((row) => row.name === name),
    ),
  )
}

function shapeOf(name: string, columns: readonly Row[]): TableShape {
  return {
    name,
    columns: columns.map(({ column }) => String(column)),
    key: columns
      .filter(({ place }) => place !== null)
      .toSorted((one, other) => Number(one.place) - Number(other.place))
      .map(({ column }) => String(column)),
  }
}

/** All the steps that are missing, by one receiver at a time. */
async function migrate(server: PostgresServer, tables: readonly SubjectTables<unknown>[]): Promise<void> {
  const client = await server.connect()
  try {
    await client.query(patiently(`SELECT pg_advisory_lock(${MIGRATION_LOCK})`))
    await bringUp(
      kyselyOver(() => new OneConnection(client)),
      tables,
    )
    await client.query(`SELECT pg_advisory_unlock(${MIGRATION_LOCK})`)
    client.release()
  } catch (error) {
    client.release(true)
    throw error
  }
}

/** A step over large tables takes its time, and so does waiting for another receiver that takes one. */
const STEP_MS = 60 * 60_000
const LONG = { query_timeout: STEP_MS }
const patiently = (text: string, values: unknown[] = []) => ({ text, values, query_timeout: STEP_MS })

/** Begins and ends the transactions that writes share, each on a connection of its own. */
class Writer {
  private client: PoolClient | null = null
  /** What is kept back of a transaction whose pieces of work are done together. */
  together: Pick<ReturnType<typeof gathered>, 'begin' | 'flush' | 'clear'> | null = null
  isTogether = false
  private readonly names = new Map<string, string>()

  constructor(private readonly server: PostgresServer) {}

  async begin(abouts: readonly unknown[] | null): Promise<void> {
    this.client = await this.server.connect()
    // One way to the server for both.
    await this.client.query(`BEGIN; SELECT pg_advisory_xact_lock(${WRITING_LOCK})`)
    this.isTogether = abouts !== null
    if (abouts !== null) await this.together?.begin(abouts)
  }
  savepoint = () => this.do('SAVEPOINT one')
  release = () => this.do('RELEASE one')
  rollbackOne = () => this.do('ROLLBACK TO one')

  async commit(): Promise<void> {
    if (this.isTogether) await this.together?.flush()
    try {
      await this.do(`SELECT pg_notify('${CHANNEL}', '${this.server.me}'); COMMIT`)
    } catch (error) {
      // Whether it was committed, nobody knows who did not hear it.
      throw isLost(error) ? new DoubtfulCommit(error) : error
    }
    this.letGo()
  }

  async rollback(): Promise<void> {
    this.together?.clear()
    try {
      await this.do('ROLLBACK')
      this.letGo()
    } catch (error) {
      this.letGo(error)
    }
  }

  async query(name: string, text: string, values: unknown[]) {
    if (this.client === null) throw new Error('Nothing is written outside of a transaction.')
    return this.client.query<Record<string, unknown>>({ name, text, values })
  }

  /** By a name for each text, which the connection prepares once. */
  async prepared(text: string, values: readonly unknown[]) {
    const name = this.names.get(text) ?? `g${this.names.size}`
    this.names.set(text, name)
    const kept = values.map((value) => (Array.isArray(value) ? value.map(boundValue) : boundValue(value)))
    return this.query(name, text, kept)
  }

  /** @throws Error outside of a transaction */
  async ask(text: string, values: unknown[]) {
    if (this.client === null) throw new Error('Nothing is written outside of a transaction.')
    return this.client.query<Record<string, unknown>>({ text, values, ...LONG })
  }

  private async do(text: string): Promise<void> {
    await this.client?.query(text)
  }

  /** @param error where the connection is not to be used again */
  private letGo(error?: unknown): void {
    const { client } = this
    this.client = null
    client?.release(error !== undefined)
    if (error !== undefined && isLost(error)) this.server.lose()
  }
}

type Ask = (
  name: string,
  text: string,
  values: unknown[],
) => Promise<{ rows: Record<string, unknown>[]; rowCount: number | null }>

/** Statements by a name each, which connections prepare once; parameters are `$1`, `$2` in their text. */
function statements(beginning: string, ask: Ask): (text: string) => Statement {
  let count = 0
  return (text) => {
    const name = `${beginning}${(count += 1)}`
    const asked = (values: unknown[]) => ask(name, text, values.map(boundValue))
    return {
      get: async (...values) => (await asked(values)).rows[0],
      all: async (...values) => (await asked(values)).rows,
      run: async (...values) => ({ changes: (await asked(values)).rowCount ?? 0 }),
    }
  }
}

function kyselyOver(driver: () => Driver): Kysely<unknown> {
  return new Kysely<unknown>({
    dialect: {
      createAdapter: () => new PostgresAdapter(),
      createDriver: driver,
      createIntrospector: (db) => new PostgresIntrospector(db),
      createQueryCompiler: () => new PostgresQueryCompiler(),
    },
  })
}

/** What Kysely runs its migrations over: the connection that holds their lock. */
class OneConnection implements Driver {
  constructor(private readonly client: PoolClient) {}

  async init(): Promise<void> {}
  async acquireConnection(): Promise<DatabaseConnection> {
    const { client } = this
    return {
      async executeQuery<R>({ sql, parameters }: CompiledQuery): Promise<QueryResult<R>> {
        const { rows, rowCount } = await client.query(patiently(sql, [...parameters]))
        return { rows: rows as R[], numAffectedRows: BigInt(rowCount ?? 0) }
      },
      async *streamQuery() {},
    }
  }
  beginTransaction = () => this.do('BEGIN')
  commitTransaction = () => this.do('COMMIT')
  rollbackTransaction = () => this.do('ROLLBACK')
  async releaseConnection(): Promise<void> {}
  async destroy(): Promise<void> {}

  private async do(text: string): Promise<void> {
    await this.client.query(text)
  }
}

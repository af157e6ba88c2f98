import { Client, type ClientConfig, Pool, type PoolClient, types } from 'pg'
import { complain } from '../../log'
import { newId } from '../../random'
import { type PostgresAddress, tlsOf } from './address'

/** Beyond these, who asks waits for a connection. */
const MOST_CONNECTIONS = 10
/** What takes longer was cut off on the way. */
const LONGEST_QUERY_MS = 30_000
const LONGEST_SILENCE_MS = 15_000
/** Oldest that is tried: Debian 12 has 15. */
const LEAST_VERSION = 140_000
const INT8 = 20
/** As what receivers are connected, before a name for each. */
const APPLICATION = 'askbox'
/** A listener that lost its connection tries again after this, and each time twice as long, up to a limit. */
const LISTEN_AGAIN_MS = 200
const LISTEN_AGAIN_MOST_MS = 5_000

/** Why the server cannot be used, in one line for whoever starts the receiver. */
export class ServerUnusable extends Error {}

/** Sums and counts come as text; none passes what a number holds exactly. */
const typed = {
  getTypeParser: ((oid: number, format?: 'text' | 'binary') =>
    oid === INT8 ? exactNumber : types.getTypeParser(oid, format as 'text')) as typeof types.getTypeParser,
}
function exactNumber(text: string): number {
  const value = Number(text)
  if (!Number.isSafeInteger(value)) throw new RangeError(`${text} is more than a number holds exactly.`)
  return value
}

/** What tells that a connection is gone, or that its server takes no writes any more: PostgreSQL's documentation, appendix A. */
const LOST = new Set([
  ...['ECONNREFUSED', 'ECONNRESET', 'EPIPE', 'ETIMEDOUT', 'ENOTFOUND', 'EHOSTUNREACH', 'EAI_AGAIN'],
  ...['57P01', '57P02', '57P03', '57P05', '25006', '08000', '08003', '08006', '08001', '08004'],
])
export function isLost(error: unknown): boolean {
  const { code = '', message = '' } = error as { code?: string; message?: string }
  return (
    LOST.has(code) ||
    /^Connection terminated|timeout exceeded when trying to connect|Client was closed|^Query read timeout/.test(message)
  )
}

/** What is asked of a server before it is used. */
interface Looked {
  version: number
  waits: boolean
  readonly: string
  /** What a commit waits for. */
  waits_for: string
  may: boolean | null
  /** Its row of `pg_database`, which has more columns the newer the server is. */
  database: { datcollate?: string; datlocprovider?: string; datlocale?: string; daticulocale?: string }
}

/** By what a database sorts: its own library's, ICU's (15 and newer), or what is built in (17 and newer). */
function collationOf({ database }: Looked): string {
  const { datcollate = '', datlocprovider = 'c', datlocale, daticulocale } = database
  return datlocprovider === 'c' ? datcollate : (datlocale ?? daticulocale ?? datcollate)
}

/**
 * Connections to the server of an address that takes writes. Where it is lost, the next who asks finds the one that took its
 * place among the hosts of the address.
 */
export class PostgresServer {
  private pool: Promise<Pool> | null = null
  /** The same, once it is open. */
  private opened: Pool | null = null
  private isClosed = false
  /** Tells this receiver's connections from others'. */
  readonly me = newId<string>()
  private listener: Client | null = null

  private constructor(private readonly address: PostgresAddress) {}

  /** @throws ServerUnusable */
  static async open(address: PostgresAddress): Promise<PostgresServer> {
    const server = new PostgresServer(address)
    await server.current()
    return server
  }

  /** How many there are, how many of them do nothing, and how many wait for one. */
  connections(): { total: number; idle: number; waiting: number } {
    const { opened } = this
    return { total: opened?.totalCount ?? 0, idle: opened?.idleCount ?? 0, waiting: opened?.waitingCount ?? 0 }
  }

  /** A connection of one's own, to be released: with an error, where it is not to be used again. */
  async connect(): Promise<PoolClient> {
    return this.noticing(async (pool) => {
      const client = await pool.connect()
      // Told by the question that is under way, or by the next.
      if (client.listenerCount('error') === 0) client.on('error', () => {})
      return client
    })
  }

  /** Asks over any connection. @param name of the statement, which each connection prepares once */
  async query(name: string, text: string, values: unknown[]) {
    return this.noticing((pool) => pool.query<Record<string, unknown>>({ name, text, values }))
  }

  /** How many other receivers are connected with the database. */
  async others(): Promise<number> {
    const { rows } = await this.ask(
      'SELECT count(DISTINCT application_name) AS count FROM pg_stat_activity WHERE datname = current_database() AND application_name LIKE $1 AND application_name <> $2',
      [`${APPLICATION} %`, `${APPLICATION} ${this.me}`],
    )
    return Number(rows[0]!.count)
  }

  /** The same without preparing it. */
  async ask(text: string, values: unknown[]) {
    return this.noticing((pool) => pool.query<Record<string, unknown>>({ text, values }))
  }

  /**
   * Calls `heard` with each notification on a channel, and with null after a connection was lost: what was told meanwhile is
   * not known.
   */
  async listen(channel: string, heard: (told: string | null) => void): Promise<void> {
    const config = await this.configured()
    if (this.isClosed) return
    const client = new Client(config)
    client.on('error', () => {})
    await client.connect()
    await client.query(`LISTEN ${channel}`)
    if (this.isClosed) return client.end()
    this.listener = client
    let isOver = false
    const again = (error?: unknown) => {
      if (isOver || this.isClosed) return
      isOver = true
      client.end().catch(() => {})
      if (error !== undefined && isLost(error)) this.lose()
      void this.listenAgain(channel, heard)
    }
    client.on('error', again)
    client.on('end', () => again())
    client.on('notification', (told) => told.channel === channel && heard(told.payload ?? ''))
  }

  private async listenAgain(channel: string, heard: (told: string | null) => void): Promise<void> {
    for (let pauseMs = LISTEN_AGAIN_MS; !this.isClosed; pauseMs = Math.min(2 * pauseMs, LISTEN_AGAIN_MOST_MS)) {
      await new Promise((resolve) => setTimeout(resolve, pauseMs).unref())
      if (this.isClosed) return
      try {
        await this.listen(channel, heard)
        return heard(null)
      } catch {
        // The next try; that the server is away is said by whoever needs it.
      }
    }
  }

  async close(): Promise<void> {
    this.isClosed = true
    await this.listener?.end().catch(() => {})
    const pool = await this.pool?.catch(() => null)
    await pool?.end()
  }

  private async noticing<T>(ask: (pool: Pool) => Promise<T>): Promise<T> {
    try {
      return await ask(await this.current())
    } catch (error) {
      if (isLost(error)) this.lose()
      throw error
    }
  }

  /** Gives up the connections that there are: the next who asks looks for the server anew. */
  lose(): void {
    const lost = this.pool
    this.pool = null
    this.opened = null
    void lost?.then((pool) => pool.end()).catch(() => {})
  }

  private current(): Promise<Pool> {
    if (this.isClosed) return Promise.reject(new Error('The store is closed.'))
    if (this.pool === null) {
      const found = this.configured().then((config) => {
        const pool = new Pool({ ...config, max: MOST_CONNECTIONS })
        this.opened = pool
        // Connections that nobody uses break as well.
        pool.on('error', (error) => (isLost(error) ? this.lose() : complain(error)))
        return pool
      })
      this.pool = found
      found.catch(() => {
        if (this.pool === found) this.pool = null
      })
    }
    return this.pool
  }

  /** Of the first host that answers as it has to. @throws ServerUnusable */
  private async configured(): Promise<ClientConfig> {
    const said: string[] = []
    for (const { host, port } of this.address.hosts) {
      const { user, password, database, timeoutMs } = this.address
      const config: ClientConfig = {
        ...{
          host,
          port,
          user,
          database,
          connectionTimeoutMillis: timeoutMs,
          application_name: 'Ask Box',
          types: typed,
        },
        ...(password !== undefined && { password }),
        ...{ keepAlive: true, query_timeout: LONGEST_QUERY_MS },
        // Who holds the lock of writers and says nothing more lets others go on.
        application_name: `${APPLICATION} ${this.me}`,
        options: `-c idle_in_transaction_session_timeout=${LONGEST_SILENCE_MS} -c tcp_keepalives_idle=10 -c tcp_keepalives_interval=5 -c tcp_keepalives_count=3`,
      }
      try {
        return await this.looked(config)
      } catch (error) {
        said.push(`${host}:${port}: ${(error as Error).message || (error as { code?: string }).code}`)
      }
    }
    throw new ServerUnusable(said.join('; '))
  }

  private async looked(config: ClientConfig, ssl = tlsOf(this.address)): Promise<ClientConfig> {
    const tried = { ...config, ...(ssl !== false && { ssl }) }
    const client = new Client(tried)
    client.on('error', () => {})
    try {
      await client.connect()
    } catch (error) {
      if (this.address.tls === 'prefer' && ssl !== false && /does not support SSL/.test((error as Error).message))
        return this.looked(config, false)
      throw error
    }
    try {
      const { rows } = await client.query<Looked>(
        `SELECT current_setting('server_version_num')::int AS version, pg_is_in_recovery() AS waits,
           current_setting('default_transaction_read_only') AS readonly, current_setting('synchronous_commit') AS waits_for,
           has_schema_privilege(current_schema(), 'CREATE') AS may,
           (SELECT to_jsonb(one) FROM pg_database one WHERE datname = current_database()) AS database`,
      )
      const { version, waits, readonly, may, waits_for: waitsFor } = rows[0]!
      const collation = collationOf(rows[0]!)
      if (version < LEAST_VERSION)
        throw new Error(`it is version ${Math.floor(version / 10_000)}; 14 or newer is needed`)
      if (this.address.mustTakeWrites && (waits || readonly === 'on')) throw new Error('it takes no writes: a standby')
      // Names have to sort by their bytes, as they do in the embedded store.
      if (!/^(C|POSIX|C\.UTF-?8|PG_UNICODE_FAST)$/i.test(collation))
        throw new Error(
          `the database “${config.database}” sorts by “${collation}”; make one with: CREATE DATABASE … TEMPLATE template0 LOCALE 'C' ENCODING 'UTF8'`,
        )
      if (!may) throw new Error(`the role “${config.user}” may not create tables there`)
      // What was answered has to be on disk, however the server is set. Where it waits for a standby as well, it goes on to.
      return waitsFor === 'off' ? { ...tried, options: `${tried.options} -c synchronous_commit=on` } : tried
    } finally {
      await client.end()
    }
  }
}

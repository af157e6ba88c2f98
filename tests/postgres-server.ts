import { type ChildProcess, execFileSync, spawn, spawnSync } from 'node:child_process'
import { chownSync, mkdtempSync, readdirSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { createInterface } from 'node:readline'
import { Client, types } from 'pg'
import { freePort } from './free-port'
import { openPostgresEngine, type PostgresConnection } from '../src/receiver/store'
import { subjects, tablesOf } from '../src/receiver/subjects'

const INT8 = 20
/** Sums and counts come as text; none here passes what a number holds. */
types.setTypeParser(INT8, (text) => {
  const value = Number(text)
  if (!Number.isSafeInteger(value)) throw new RangeError(`${text} is more than a number holds exactly.`)
  return value
})

/** A PostgreSQL cluster of the tests' own, in a temporary folder: gone when they end. */
export interface PostgresServer {
  /** A connection to a database by this name: made with the newest tables when it is first asked for. */
  connect(name: string): Promise<PostgresConnection>
  stop(): Promise<void>
}

const TEMPLATE = 'newest_tables'

/** @throws Error where Debian's `postgresql` is not installed: `npm test` installs it */
export async function startPostgres(): Promise<PostgresServer> {
  const folder = mkdtempSync(join(tmpdir(), 'ask-box-postgres-'))
  const server = await startCluster(folder)
  const connected = async (database: string) => {
    const client = new Client({ host: '127.0.0.1', port: server.port, user: 'postgres', database })
    // A server that is ended says so to whoever is connected.
    client.on('error', () => {})
    await client.connect()
    return client
  }
  const main = await connected('postgres')
  const made = new Map<string, Promise<unknown>>()
  const query = (text: string) => main.query(text)

  async function makeTemplate(): Promise<void> {
    await query(`CREATE DATABASE ${TEMPLATE}`)
    const engine = await openPostgresEngine(connectionOver(await connected(TEMPLATE)), tablesOf(subjects))
    await engine.close()
  }
  // PostgreSQL copies a template for one at a time.
  let last = makeTemplate()
  function databaseNamed(name: string): Promise<unknown> {
    if (!made.has(name)) {
      last = last.then(async () => {
        await query(`CREATE DATABASE "${name}" TEMPLATE ${TEMPLATE} STRATEGY FILE_COPY`)
      })
      made.set(name, last)
    }
    return made.get(name)!
  }
  return {
    async connect(name) {
      await databaseNamed(name)
      return connectionOver(await connected(name))
    },
    async stop() {
      await main.end()
      await server.stop()
    },
  }
}

function connectionOver(client: Client): PostgresConnection {
  return {
    async query(text, values) {
      const { rows, rowCount } = await client.query<Record<string, never>>(text, values)
      return { rows, changed: rowCount ?? 0 }
    },
    async listen(channel, heard) {
      client.on('notification', (told) => {
        if (told.channel === channel) heard(told.payload ?? '')
      })
      await client.query(`LISTEN ${channel}`)
    },
    close: () => client.end(),
  }
}

async function startCluster(folder: string): Promise<{ port: number; stop(): Promise<void> }> {
  const programs = programsFolder()
  // The server refuses to run as root; Debian's package has made a user for it.
  const as = process.getuid?.() === 0 ? { uid: numberOf('-u'), gid: numberOf('-g') } : {}
  if (as.uid !== undefined) chownSync(folder, as.uid, as.gid)
  const made = spawnSync(
    join(programs, 'initdb'),
    ['-D', folder, '-U', 'postgres', '-A', 'trust', '--locale=C', '--encoding=UTF8', '--no-sync'],
    { ...as, cwd: folder, encoding: 'utf8' },
  )
  if (made.status !== 0) throw new Error(`PostgreSQL’s initdb failed: ${made.stderr || made.error?.message}`)
  const port = await freePort()
  // Nothing here has to survive the machine.
  const settings = ['fsync=off', 'synchronous_commit=off', 'full_page_writes=off', 'max_connections=60']
  const server = spawn(
    join(programs, 'postgres'),
    [
      ...['-D', folder, '-p', String(port), '-k', '', '-h', '127.0.0.1'],
      ...settings.flatMap((setting) => ['-c', setting]),
    ],
    { ...as, cwd: folder, stdio: ['ignore', 'ignore', 'pipe'] },
  )
  const end = () => server.kill('SIGQUIT')
  process.once('exit', end)
  await isReady(server)
  return {
    port,
    async stop() {
      process.off('exit', end)
      const ended = new Promise((resolve) => server.once('exit', resolve))
      end()
      await ended
      rmSync(folder, { recursive: true, force: true })
    },
  }
}

/** Debian keeps the server's programs by version, outside the PATH. */
function programsFolder(): string {
  const versions = '/usr/lib/postgresql'
  try {
    const newest = readdirSync(versions).toSorted((one, other) => Number(other) - Number(one))[0]
    if (newest !== undefined) return join(versions, newest, 'bin')
  } catch {
    // Said below.
  }
  throw new Error('No PostgreSQL found below /usr/lib/postgresql. `npm test` installs Debian’s package “postgresql”.')
}

const numberOf = (which: '-u' | '-g') => Number(execFileSync('id', [which, 'postgres'], { encoding: 'utf8' }))

function isReady(server: ChildProcess): Promise<void> {
  const said: string[] = []
  return new Promise((resolve, reject) => {
    createInterface({ input: server.stderr! }).on('line', (line) => {
      said.push(line)
      if (line.includes('ready to accept connections')) resolve()
    })
    server.once('error', reject)
    server.once('exit', () => reject(new Error(`PostgreSQL ended: ${said.join('\n')}`)))
  })
}

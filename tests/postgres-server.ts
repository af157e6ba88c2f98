import { type ChildProcess, execFileSync, spawn, spawnSync } from 'node:child_process'
import { chownSync, mkdtempSync, readdirSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { createInterface } from 'node:readline'
import { Client } from 'pg'
import { freePort } from './free-port'
import { openPostgresEngine, type PostgresAddress, readPostgresAddress } from '../src/receiver/store'
import { subjects, tablesOf } from '../src/receiver/subjects'

/** A PostgreSQL cluster of the tests' own, in a temporary folder: gone when they end. */
export interface PostgresServer {
  /** Where the database by this name is: made with the newest tables when it is first asked for. */
  address(name: string): Promise<PostgresAddress>
  /** The same as it is set. */
  url(name: string): Promise<string>
  /** Asked as the one who may do all. */
  query(text: string): Promise<unknown>
  /** Ends it at once: who is connected is cut off, and it recovers at its next start. */
  crash(): Promise<void>
  start(): Promise<void>
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
  let main = await connected('postgres')
  const urlOf = (name: string) =>
    `postgres://postgres@127.0.0.1:${server.port}/${encodeURIComponent(name)}?sslmode=disable`
  const addressOf = (name: string) => {
    const reading = readPostgresAddress(urlOf(name))
    if (!reading.ok) throw new Error(reading.problem)
    return reading.address
  }
  const made = new Map<string, Promise<unknown>>()
  const query = (text: string) => main.query(text)

  async function makeTemplate(): Promise<void> {
    await query(`CREATE DATABASE ${TEMPLATE}`)
    const engine = await openPostgresEngine(addressOf(TEMPLATE), tablesOf(subjects))
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
    async address(name) {
      await databaseNamed(name)
      return addressOf(name)
    },
    async url(name) {
      await databaseNamed(name)
      return urlOf(name)
    },
    query,
    crash: () => server.crash(),
    async start() {
      await server.start()
      main = await connected('postgres')
    },
    async stop() {
      await main.end().catch(() => {})
      await server.stop()
    },
  }
}

interface Cluster {
  port: number
  crash(): Promise<void>
  start(): Promise<void>
  stop(): Promise<void>
}

async function startCluster(folder: string): Promise<Cluster> {
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
  let server: ChildProcess
  const end = () => server.kill('SIGQUIT')
  process.once('exit', end)
  async function start(): Promise<void> {
    server = spawn(
      join(programs, 'postgres'),
      [
        ...['-D', folder, '-p', String(port), '-k', '', '-h', '127.0.0.1'],
        ...settings.flatMap((setting) => ['-c', setting]),
      ],
      { ...as, cwd: folder, stdio: ['ignore', 'ignore', 'pipe'] },
    )
    await isReady(server)
  }
  async function crash(): Promise<void> {
    const ended = new Promise((resolve) => server.once('exit', resolve))
    end()
    await ended
  }
  await start()
  return {
    ...{ port, crash, start },
    async stop() {
      process.off('exit', end)
      await crash()
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

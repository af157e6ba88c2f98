import { execFile, execFileSync } from 'node:child_process'
import { chownSync, cpSync, existsSync, mkdtempSync, readdirSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { promisify } from 'node:util'
import { freePort } from './free-port'

const asked = promisify(execFile)
const scripts = resolve(import.meta.dirname, '../deploy/postgresql')

/** Two PostgreSQL servers on this machine, a primary and its standby, made and run by the scripts of `deploy/postgresql`. */
export interface DatabasePair {
  /** Ports of both, whichever is the primary now. */
  ports: readonly [number, number]
  /** With both hosts, at these ports in place of theirs where something stands between. */
  url(ports?: readonly number[]): string
  /** Asks the primary, as who may do all. */
  ask(sql: string): Promise<string>
  /** Ends the primary at once, as a power cut does. */
  kill(): Promise<void>
  start(): Promise<void>
  /** The primary is gone and the other takes its place; the former one becomes its standby, whose disk commits wait for. */
  promote(): Promise<void>
  backup(name: string): Promise<string>
  /** A third server, as everything was at a moment (as PostgreSQL writes it); answers what it is asked. */
  restored(backup: string, moment: string): Promise<(sql: string) => Promise<string>>
  stop(): Promise<void>
}

/** @param isDurable whether commits reach the disk */
export async function startDatabasePair({ isDurable = false } = {}): Promise<DatabasePair> {
  const folder = mkdtempSync(join(tmpdir(), 'ab-pair-'))
  const isRoot = process.getuid?.() === 0
  const numberOf = (which: '-u' | '-g') => Number(execFileSync('id', [which, 'postgres'], { encoding: 'utf8' }))
  const as = isRoot ? { uid: numberOf('-u'), gid: numberOf('-g') } : {}
  // The checkout may be closed to the user of the database server.
  const own = join(folder, 'scripts')
  cpSync(scripts, own, { recursive: true })
  for (const one of [folder, own, ...readdirSync(own).map((name) => join(own, name))])
    if (isRoot) chownSync(one, as.uid!, as.gid!)
  const ports = [await freePort(), await freePort()] as const
  const third = await freePort()
  const environment = {
    PATH: process.env.PATH,
    LC_ALL: 'C.UTF-8',
    ASKBOX_DB_PASSWORD: 'of-the-receivers',
    REPLICATION_PASSWORD: 'of-standbys',
    PG_MORE: `${isDurable ? '' : 'fsync = off\nfull_page_writes = off\n'}wal_keep_size = '64MB'\nmax_connections = 90`,
    ...(!isRoot && { LOCAL_AUTH: 'trust' }),
  }
  const at = ['a', 'b'].map((name) => join(folder, name))
  let primary = 0
  const options = { ...as, cwd: folder, env: environment, encoding: 'utf8' as const, timeout: 120_000 }
  async function run(script: string, ...args: (string | number)[]): Promise<string> {
    return (await asked('sh', [join(own, script), ...args.map(String)], options)).stdout
  }
  const shell = async (line: string) =>
    (await asked('sh', ['-c', `. ./scripts/common.sh\n${line}`], options)).stdout.trim()
  const askAt = (data: string, sql: string) => shell(`ask '${data}' "${sql}"`)
  const data = (which: number) => at[which]!
  const standby = async (which: number) => {
    await run('standby.sh', data(which), ports[which]!, `askbox_${which}`, '127.0.0.1', ports[primary]!)
    await run('commits-wait-for.sh', data(primary), `askbox_${which}`)
  }
  await run('primary.sh', data(0), ports[0], join(folder, 'archive'))
  await standby(1)
  return {
    ports,
    url: (through = ports) =>
      `postgres://askbox:of-the-receivers@${through.map((port) => `127.0.0.1:${port}`).join(',')}/askbox?sslmode=disable&target_session_attrs=read-write&connect_timeout=2`,
    ask: (sql) => askAt(data(primary), sql),
    kill: async () => void (await shell(`"$PGBIN/pg_ctl" stop -D '${data(primary)}' -m immediate -s`)),
    start: async () => void (await shell(`start '${data(primary)}'`)),
    async promote() {
      const former = primary
      await shell(`"$PGBIN/pg_ctl" stop -D '${data(former)}' -m immediate -s`)
      primary = 1 - former
      await run('promote.sh', data(primary))
      await standby(former)
    },
    async backup(name) {
      const path = join(folder, name)
      await run('backup.sh', '127.0.0.1', ports[primary]!, path)
      return path
    },
    async restored(backup, moment) {
      const restoredAt = join(folder, 'restored')
      await run('restore.sh', backup, join(folder, 'archive'), restoredAt, third, moment)
      return (sql) =>
        shell(`"$PGBIN/psql" -X -q -t -A -h '${restoredAt}.socket' -p ${third} -U postgres -d askbox -c "${sql}"`)
    },
    async stop() {
      for (const one of [...at, join(folder, 'restored')])
        if (existsSync(one)) await shell(`"$PGBIN/pg_ctl" stop -D '${one}' -m immediate -s || true`)
      rmSync(folder, { recursive: true, force: true })
    },
  }
}

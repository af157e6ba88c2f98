import { type ChildProcess, spawn } from 'node:child_process'
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { type DatabasePair, startDatabasePair } from './database-pair'
import { type FaultyLink, startFaultyLink } from './faulty-link'
import { freePort } from './free-port'
import { end } from './programs'

const root = resolve(import.meta.dirname, '..')

/** Receivers in processes of their own that share two database servers, over links that can fail. */
export interface Several {
  addresses: readonly string[]
  key: string
  folder: string
  database: DatabasePair
  links: readonly FaultyLink[]
  /** Of the stand-in list services: its book-keeping. */
  serviceFile: string
  /** Ends one receiver and starts it again, as a service manager does. */
  kill(which: number, signal?: NodeJS.Signals): Promise<void>
  /**
   * Asks as a balancer does: a receiver by turns, and the next where one does not answer or says that nothing can be stored.
   * The same bytes go to each. Resolves once one has answered.
   */
  ask(path: string, init?: RequestInit): Promise<Response>
  stop(): Promise<void>
}

/** @param isDurable whether commits reach the disk, for who measures them */
export async function startSeveral(count = 3, { isDurable = false } = {}): Promise<Several> {
  const folder = mkdtempSync(join(tmpdir(), 'ask-box-several-'))
  const database = await startDatabasePair({ isDurable })
  const links = await Promise.all(database.ports.map(startFaultyLink))
  const ports: number[] = []
  for (let at = 0; at < count; at++) ports.push(await freePort())
  const [smtpPort, servicePort, sitesPort] = [await freePort(), await freePort(), await freePort()]
  const key = 'key-for-the-tests-only'
  const environment = (which: number): NodeJS.ProcessEnv => ({
    ...process.env,
    ASKBOX_LOG: 'text',
    ASKBOX_PORT: String(ports[which] ?? 4310),
    ASKBOX_DATA: join(folder, `data-${which}`),
    ASKBOX_HOST: '127.0.0.1',
    ASKBOX_PUBLIC_URL: `http://127.0.0.1:${ports[0]}`,
    ASKBOX_BROWSER: 'none',
    ASKBOX_KEY: key,
    ASKBOX_SECRET: 'a secret for the tests only',
    DATABASE_URL: database.url(links.map(({ port }) => port)),
    ASKBOX_SITES_PORT: String(sitesPort),
    ASKBOX_SERVICE_PORT: String(servicePort),
    ASKBOX_SMTP_PORT: String(smtpPort),
    ASKBOX_MAILBOX: join(folder, 'mailbox'),
    SMTP_URL: `smtp://127.0.0.1:${smtpPort}`,
  })
  // The stand-ins keep what they hold in one folder.
  const shared = { ...environment(0), ASKBOX_DATA: folder }
  mkdirSync(join(folder, 'mailbox'), { recursive: true })
  const [service, mailbox] = await Promise.all(['service', 'mailbox'].map((name) => started(name, [], shared)))
  const demo = ['--demo', join(root, 'demo/cloudberry-hill.json')]
  // The first makes the tables and fills them.
  const receivers = [await started('receiver', demo, environment(0))]
  receivers.push(...(await Promise.all(ports.slice(1).map((_, at) => started('receiver', [], environment(at + 1))))))
  const addresses = ports.map((port) => `http://127.0.0.1:${port}`)
  let turn = 0
  return {
    ...{ addresses, key, folder, database, links },
    serviceFile: join(folder, 'stand-ins/service.jsonl'),
    async kill(which, signal = 'SIGKILL') {
      await end(receivers[which]!, signal)
      // A receiver that finds no server does not start: whoever manages it tries again.
      for (;;) {
        const again = await started('receiver', [], environment(which)).catch(() => null)
        if (again !== null) return void (receivers[which] = again)
        await new Promise((done) => setTimeout(done, 500))
      }
    },
    async ask(path, init) {
      const until = Date.now() + 120_000
      for (;;) {
        const address = addresses[(turn += 1) % addresses.length]!
        const answer = await fetch(address + path, { ...init, signal: AbortSignal.timeout(15_000) }).catch(() => null)
        if (answer !== null && answer.status < 500) return answer
        await answer?.body?.cancel()
        if (Date.now() > until) throw new Error(`${path}: no receiver answers (${answer?.status ?? 'no answer'})`)
        await new Promise((done) => setTimeout(done, 50))
      }
    },
    async stop() {
      await Promise.all([...receivers, service!, mailbox!].map((child) => end(child, 'SIGKILL')))
      links.forEach((link) => link.stop())
      await database.stop()
      rmSync(folder, { recursive: true, force: true })
    },
  }
}

function started(name: string, args: string[], env: NodeJS.ProcessEnv): Promise<ChildProcess> {
  const child = spawn(process.execPath, [join(root, `dist/server/${name}.js`), ...args], {
    cwd: root,
    env,
    // Servers that are killed on purpose are complained of.
    stdio: ['ignore', 'pipe', process.env.SHOW_LOGS ? 'inherit' : 'ignore'],
  })
  return new Promise((resolve, reject) => {
    let said = ''
    child.stdout!.on('data', (chunk: Buffer) => {
      said += chunk.toString()
      if (/^ready /m.test(said)) resolve(child)
    })
    child.once('exit', (code) => reject(new Error(`${name} ended with ${code}`)))
  })
}

import { type ChildProcess, fork, spawn } from 'node:child_process'
import { cpSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { freePort } from './free-port'

const root = resolve(import.meta.dirname, '..')

export interface RunningBox {
  /** The workshop's address without a key, such as http://localhost:40123. */
  workshop: string
  /** The workshop's address with the key of programs: pairs any number of browsers. */
  pairing: string
  /** As it is printed at a start: connects one browser, once. */
  printed: string
  key: string
  sites: string
  /** The stand-in list services, where they run. */
  service: string
  services: ChildProcess | null
  folder: string
  /** Where its receiver asks name servers: nobody answers there until a test does. */
  namesPort: number
  receiver: ChildProcess
  /** Moves the receiver's clock, by milliseconds from now. */
  moveClock(ms: number): void
  /** Starts the receiver again in the same folder and on the same port, after it was killed. */
  restart(): Promise<void>
  /** The same for the stand-in list services. */
  restartServices(): Promise<void>
  /** Ends the programs and leaves the folder. */
  end(): Promise<void>
  stop(): Promise<void>
}

/** The stand-in sites, which can outlive a box. */
export interface RunningSites {
  address: string
  folder: string
  stop(): Promise<void>
}

/** A process in which one receiver after another can run (see receiver-host.mjs). */
export interface ReceiverHost {
  child: ChildProcess
  /** Ends what runs, and starts a receiver with this environment; resolves with the address that pairs a browser. */
  start(environment: NodeJS.ProcessEnv): Promise<string>
  /** Ends what runs; the process stays. */
  rest(): Promise<void>
}

/** The receiver's port and the stand-in sites'. */
export type Ports = [receiver: number, sites: number]

/**
 * Starts the built receiver and stand-in sites, in a folder and on ports of their own: with the demo, or with what a
 * folder holds that another box left.
 */
export async function startBox({
  demo = true,
  ports,
  from,
  sites: others,
  host,
  withMailbox = false,
  withService = false,
  withDemoMail = false,
  databaseUrl,
}: {
  demo?: boolean
  ports?: Ports
  from?: string
  /** Stand-in sites that run already on that port; they are left running. */
  sites?: RunningSites
  /** A process to run the receiver in, which is left running; else it has one of its own. */
  host?: ReceiverHost
  /** Whether the stand-in mailbox runs and mail goes there; else mail waits, and that of rehearsals is kept. */
  withMailbox?: boolean
  /** Whether the stand-in list services run, and on which port where that matters. */
  withService?: boolean | number
  /** Whether the demo's newest people get their mail. */
  withDemoMail?: boolean
  /** A database server to keep all in, in place of the box’s folder. */
  databaseUrl?: string
} = {}): Promise<RunningBox> {
  const folder = mkdtempSync(join(tmpdir(), 'ask-box-'))
  if (from !== undefined) cpSync(from, folder, { recursive: true })
  const [port, sitesPort] = ports ?? [await freePort(), await freePort()]
  const smtpPort = withMailbox ? await freePort() : 4325
  const servicePort = typeof withService === 'number' ? withService : withService ? await freePort() : null
  const namesPort = await freePort()
  const key = 'key-for-the-tests-only'
  const environment = {
    ...process.env,
    ASKBOX_LOG: 'text',
    ASKBOX_PORT: String(port),
    ASKBOX_SITES_PORT: String(sitesPort),
    ASKBOX_DATA: folder,
    ASKBOX_KEY: key,
    ASKBOX_HOST: '127.0.0.1',
    ASKBOX_PUBLIC_URL: '',
    ASKBOX_TRUST_PROXY: '1',
    ASKBOX_CLOCK_FILE: join(folder, 'clock'),
    SMTP_URL: withMailbox ? `smtp://127.0.0.1:${smtpPort}` : '',
    ASKBOX_MAILBOX: withMailbox ? join(folder, 'mailbox') : '',
    ASKBOX_SMTP_PORT: String(smtpPort),
    ASKBOX_SERVICE_PORT: servicePort === null ? '' : String(servicePort),
    ASKBOX_SECRET: 'a secret for the tests only',
    ASKBOX_NAME_SERVERS: `127.0.0.1:${namesPort}`,
    ...(databaseUrl !== undefined && { DATABASE_URL: databaseUrl }),
  }
  const withDemo =
    demo && from === undefined
      ? ['--demo', join(root, 'demo/cloudberry-hill.json'), ...(withDemoMail ? ['--demo-mail'] : [])]
      : []
  const start = (name: string) => startProgram(name, withDemo, environment)
  const service = withService ? await start('service') : null
  const [receiver, sites, mailbox] = await Promise.all([
    host === undefined
      ? start('receiver')
      : host.start(environment).then((address) => ({ child: host.child, address })),
    others === undefined ? start('sites') : null,
    withMailbox ? start('mailbox') : null,
  ])
  const box: RunningBox = {
    workshop: `http://localhost:${port}`,
    pairing: `http://localhost:${port}/#key=${key}`,
    printed: receiver.address,
    key,
    sites: (sites ?? others!).address.replace(/\/$/, ''),
    service: service?.address.replace(/\/$/, '') ?? '',
    services: service?.child ?? null,
    folder,
    namesPort,
    receiver: receiver.child,
    moveClock: (ms) => writeFileSync(join(folder, 'clock'), String(ms)),
    async restart() {
      box.receiver = (await start('receiver')).child
    },
    async restartServices() {
      box.services = (await start('service')).child
    },
    async end() {
      const isHosted = box.receiver === host?.child && isAlive(box.receiver)
      await Promise.all([
        isHosted ? host!.rest() : end(box.receiver),
        ...[sites?.child, mailbox?.child, box.services].map((child) => child && end(child)),
      ])
    },
    async stop() {
      await box.end()
      rmSync(folder, { recursive: true, force: true })
    },
  }
  return box
}

/** Starts the stand-in sites alone, with what a folder holds of them, for a receiver that is elsewhere. */
export async function startSites(from: string, [port, sitesPort]: Ports): Promise<RunningSites> {
  const folder = mkdtempSync(join(tmpdir(), 'ask-box-sites-'))
  cpSync(join(from, 'stand-ins'), join(folder, 'stand-ins'), { recursive: true })
  const { child, address } = await startProgram('sites', [], {
    ...process.env,
    ASKBOX_PORT: String(port),
    ASKBOX_SITES_PORT: String(sitesPort),
    ASKBOX_DATA: folder,
    ASKBOX_HOST: '127.0.0.1',
  })
  return {
    address,
    folder,
    async stop() {
      await end(child)
      rmSync(folder, { recursive: true, force: true })
    },
  }
}

/** Starts a process for receivers, with none in it. */
export function startReceiverHost(): ReceiverHost {
  const child = fork(join(root, 'tests/receiver-host.mjs'), { cwd: root, execArgv: [] })
  const ask = (environment: NodeJS.ProcessEnv | null) =>
    new Promise<string>((resolve, reject) => {
      const ended = (code: number | null) => reject(new Error(`The receiver ended with ${code}`))
      child.once('exit', ended)
      child.once('message', ({ address }: { address: string }) => {
        child.off('exit', ended)
        resolve(address)
      })
      child.send({ environment })
    })
  return { child, start: ask, rest: async () => void (await ask(null)) }
}

function startProgram(
  name: string,
  args: string[],
  env: NodeJS.ProcessEnv,
): Promise<{ child: ChildProcess; address: string }> {
  const child = spawn(process.execPath, [join(root, `dist/server/${name}.js`), ...args], {
    cwd: root,
    env,
    stdio: ['ignore', 'pipe', 'inherit'],
  })
  return new Promise((resolve, reject) => {
    let said = ''
    child.stdout!.on('data', (chunk: Buffer) => {
      said += chunk.toString()
      const address = /^ready (\S+)$/m.exec(said)?.[1]
      if (address !== undefined) resolve({ child, address })
    })
    child.once('exit', (code) => reject(new Error(`${name} ended with ${code}`)))
  })
}

export const isAlive = ({ exitCode, signalCode }: ChildProcess): boolean => exitCode === null && signalCode === null

/** @param afterMs how long to wait before */
export function end(child: ChildProcess, signal: NodeJS.Signals = 'SIGTERM', afterMs = 0): Promise<void> {
  if (!isAlive(child)) return Promise.resolve()
  return new Promise((resolve) => {
    child.once('exit', () => resolve())
    if (afterMs > 0) setTimeout(() => child.kill(signal), afterMs)
    else child.kill(signal)
  })
}

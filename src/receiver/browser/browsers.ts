import { randomUUID } from 'node:crypto'
import { existsSync, readdirSync, readFileSync } from 'node:fs'
import type { Browser } from 'playwright-core'
import type { Browsed, Visited, VisitWish } from '#core/rehearsal'
import { type GuardedProxy, openGuardedProxy, readAddress } from '../outside'
import type { Settings } from '../settings'
import { NotOpened, visit } from './visit'

/** Whether this receiver has a browser of its own, and how to get one. */
export type BrowserState =
  | { state: 'ready'; version: string; path: string }
  | { state: 'none' }
  /** It is installed and does not start. */
  | { state: 'broken'; path: string; reason: string }

/** Where Debian's packages and others put it. */
const PATHS = ['/usr/bin/chromium-headless-shell', '/usr/bin/chromium', '/usr/bin/chromium-browser']

/** At once; each takes some 300 MB. */
const MOST = 2
const WAIT_MS = 60_000
const START_MS = 30_000
const LIMITS = {
  /** Of one visit, in milliseconds. */
  visitMs: 60_000,
  /** Memory that its processes have for themselves, in bytes. */
  memory: 1024 * 1024 * 1024,
}
const LOOK_EVERY_MS = 500

const FLAGS = [
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--disable-domain-reliability',
  '--dns-prefetch-disable',
  '--js-flags=--max-old-space-size=256',
  // Names are resolved by the proxy alone, and nothing goes past it: no datagrams of WebRTC either.
  '--host-resolver-rules=MAP * ~NOTFOUND , EXCLUDE 127.0.0.1',
  '--force-webrtc-ip-handling-policy=disable_non_proxied_udp',
  '--webrtc-ip-handling-policy=disable_non_proxied_udp',
]

interface Running {
  browser: Browser
  proxy: GuardedProxy
  end(): Promise<void>
}

/**
 * The browser that is installed beside the receiver: started for a rehearsal, with an empty profile for each visit, and
 * ended with it.
 */
export class Browsers {
  private readonly running = new Map<string, Promise<Running>>()
  private readonly waiting: (() => void)[] = []
  private known: BrowserState | null = null

  constructor(
    private readonly settings: Pick<Settings, 'publicUrl' | 'standIns' | 'browser'>,
    private readonly paths: readonly string[] = PATHS,
    private readonly limits = LIMITS,
  ) {}

  /** Starts it once to see whether it does. */
  async state(): Promise<BrowserState> {
    if (this.known?.state === 'ready') return this.known
    const path = this.path()
    if (path === null) return { state: 'none' }
    try {
      const running = await this.start(path)
      this.known = { state: 'ready', version: running.browser.version(), path }
      await running.end()
    } catch (error) {
      this.known = { state: 'broken', path, reason: reasonOf(error) }
    }
    return this.known
  }

  /** What is known of it by now: it may have been installed since. */
  isThere(): boolean {
    return this.path() !== null && this.known?.state !== 'broken'
  }

  private path(): string | null {
    const { browser } = this.settings
    if (browser === 'none') return null
    return (browser === null ? this.paths : [browser]).find((path) => existsSync(path)) ?? null
  }

  /** Opens a page for a rehearsal. What could not be seen is said, never thrown. */
  async visit(code: string, wish: VisitWish): Promise<Browsed<Visited>> {
    let timer: ReturnType<typeof setTimeout> | undefined
    try {
      // Files of this computer, and pages of the browser's own, would not come through the proxy.
      readAddress(wish.address)
    } catch (error) {
      return { isTried: false, reason: reasonOf(error) }
    }
    try {
      const { browser, proxy } = await this.runningFor(code)
      const limit = new Promise<never>((_, reject) => {
        timer = setTimeout(() => {
          reject(new NotOpened('The page was not done within its time.'))
          // One that never rests leaves nothing to work with.
          void this.end(code)
        }, this.limits.visitMs)
      })
      try {
        return { isTried: true, ...(await Promise.race([visit(browser, proxy.port, wish), limit])) }
      } catch (error) {
        const refused = [...proxy.refusals].find(([address]) => wish.address.startsWith(address))
        return { isTried: false, reason: refused?.[1] ?? reasonOf(error) }
      }
    } catch (error) {
      const path = this.path()
      const reason = reasonOf(error)
      // The next rehearsal goes on without it.
      if (path !== null && this.running.size === 0) this.known = { state: 'broken', path, reason }
      return { isTried: false, reason: `The receiver’s browser does not start: ${reason}` }
    } finally {
      clearTimeout(timer)
    }
  }

  /** Ends what was started for a rehearsal. */
  async end(code: string): Promise<void> {
    const running = this.running.get(code)
    this.running.delete(code)
    await (await running?.catch(() => null))?.end()
    if (running !== undefined) this.waiting.shift()?.()
  }

  async stop(): Promise<void> {
    await Promise.all([...this.running.keys()].map((code) => this.end(code)))
  }

  private async runningFor(code: string): Promise<Running> {
    const current = this.running.get(code)
    if (current !== undefined) {
      const running = await current
      if (running.browser.isConnected()) return running
      await this.end(code)
    }
    const path = this.path()
    if (path === null) throw new Error('There is none.')
    if (this.running.size >= MOST) await this.turn()
    const started = this.start(path)
    this.running.set(code, started)
    started.catch(() => void this.end(code))
    return started
  }

  private turn(): Promise<void> {
    return new Promise((resolve, reject) => {
      const go = () => {
        clearTimeout(timer)
        resolve()
      }
      const timer = setTimeout(() => {
        this.waiting.splice(this.waiting.indexOf(go), 1)
        reject(new Error('Other rehearsals use the browser all the time.'))
      }, WAIT_MS)
      this.waiting.push(go)
    })
  }

  private async start(path: string): Promise<Running> {
    const { publicUrl, standIns } = this.settings
    const { chromium } = await import('playwright-core')
    const run = randomUUID()
    const [proxy, own] = await Promise.all([
      openGuardedProxy([publicUrl, ...(standIns === null ? [] : [standIns])]),
      openGuardedProxy(null),
    ])
    const closeProxies = () => {
      proxy.close()
      own.close()
    }
    const isDemo = standIns !== null
    const launch = (chromiumSandbox: boolean) =>
      chromium.launch({
        executablePath: path,
        chromiumSandbox,
        args: FLAGS,
        timeout: START_MS,
        handleSIGINT: false,
        handleSIGTERM: false,
        handleSIGHUP: false,
        // Nothing of the receiver's own surroundings: its key and its mail server's password stand there.
        env: { PATH: process.env.PATH ?? '', HOME: '/nonexistent', LANG: 'C.UTF-8', [RUN]: run },
        // What it asks for by itself goes to a proxy that refuses; each visit has its own way.
        proxy: { server: `http://127.0.0.1:${own.port}` },
      })
    try {
      // Beside stand-ins nothing of strangers is opened; anywhere else, never without its sandbox.
      const browser = await launch(true).catch((error: unknown) => (isDemo ? launch(false) : Promise.reject(error)))
      const watch = setInterval(() => {
        if (memoryOf(run) > this.limits.memory) kill(run)
      }, LOOK_EVERY_MS)
      watch.unref()
      browser.on('disconnected', () => clearInterval(watch))
      return {
        browser,
        proxy,
        async end() {
          const closed = browser.close().catch(() => {})
          const late = setTimeout(() => kill(run), 3_000)
          await Promise.race([closed, new Promise((resolve) => setTimeout(resolve, 5_000).unref())])
          clearTimeout(late)
          clearInterval(watch)
          closeProxies()
        },
      }
    } catch (error) {
      kill(run)
      closeProxies()
      throw error
    }
  }
}

/** Marks the first process of one run; some of those that it starts write over their surroundings. */
const RUN = 'ASKBOX_BROWSER_RUN'

/** The processes of a run, with all that they started. */
function processesOf(run: string): number[] {
  const mark = `${RUN}=${run}`
  const children = new Map<number, number[]>()
  const processes = new Set<number>()
  let all: number[]
  try {
    all = readdirSync('/proc').flatMap((name) => (/^\d+$/.test(name) ? [Number(name)] : []))
  } catch {
    return []
  }
  for (const id of all) {
    try {
      const parent = Number(/\) \S (\d+)/.exec(readFileSync(`/proc/${id}/stat`, 'latin1'))?.[1])
      children.set(parent, [...(children.get(parent) ?? []), id])
      if (readFileSync(`/proc/${id}/environ`, 'latin1').includes(mark)) processes.add(id)
    } catch {
      // Another user's, or ended meanwhile.
    }
  }
  // What is added while going through it is gone through as well.
  for (const id of processes) for (const child of children.get(id) ?? []) processes.add(child)
  return [...processes]
}

/** Of its own pages alone, in bytes: what processes share would count many times. 0 where the system does not tell. */
function memoryOf(run: string): number {
  return processesOf(run).reduce((sum, id) => {
    try {
      return sum + 1024 * Number(/^RssAnon:\s+(\d+)/m.exec(readFileSync(`/proc/${id}/status`, 'latin1'))?.[1] ?? 0)
    } catch {
      return sum
    }
  }, 0)
}

function kill(run: string): void {
  for (const id of processesOf(run)) {
    try {
      process.kill(id, 'SIGKILL')
    } catch {
      // Ended meanwhile.
    }
  }
}

/** Of what a browser says when it does not start, the line that tells why. */
function reasonOf(error: unknown): string {
  const lines = (error instanceof Error ? error.message : String(error)).split('\n').map((line) => line.trim())
  if (process.getuid?.() === 0 && lines.some((line) => /sandbox/i.test(line)))
    return 'It keeps its sandbox, which it has for other users than root alone: run the receiver as one.'
  const telling = lines.find((line) => /sandbox|error while loading|permission denied|ENOENT|EACCES/i.test(line))
  return (telling ?? lines[0] ?? '').replace(/^(?:browserType|page)\.\w+: /, '').slice(0, 300)
}

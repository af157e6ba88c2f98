import { randomUUID } from 'node:crypto'
import { existsSync } from 'node:fs'
import type { Browser } from 'playwright-core'
import {
  type Browsed,
  type MailRead,
  type MailWish,
  type Obstacle,
  refuses,
  type Visited,
  type VisitWish,
} from '#core/rehearsal'
import { type GuardedProxy, openGuardedProxy, readAddress } from '../outside'
import type { Settings } from '../settings'
import { isFirefoxThere, visitInFirefox } from './firefox'
import { kill, memoryOf, processorTimes, RUN, takenByOthers } from './processes'
import { readMail } from './mail'
import { agentOf, visit } from './visit'
import { FORBIDS, NotOpened } from './waiting'

/** Whether this receiver has a browser of its own, and how to get one. */
export type BrowserReadiness =
  | { state: 'ready'; version: string; path: string }
  | { state: 'none' }
  /** It is installed and does not start. */
  | { state: 'broken'; path: string; reason: string }

/** Where Debian's packages and others put it. */
const PATHS = ['/usr/bin/chromium-headless-shell', '/usr/bin/chromium', '/usr/bin/chromium-browser']

const MOST_REMEMBERED = 200
/** At once; each takes some 300 MB. */
const MOST = 2
const WAIT_MS = 60_000
const START_MS = 30_000
export const LIMITS = {
  /** Of one visit, in milliseconds. */
  visitMs: 120_000,
  /** Memory that its processes have for themselves, in bytes. */
  memory: 1024 * 1024 * 1024,
  /** The share of the processors in others' hands from which more time is none. */
  hopelessFrom: 0.9,
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

/** What a page is found to be once its time is over: a busy computer makes the same of a sound one. */
const BY_TIME: readonly Obstacle['code'][] = [
  ...([
    'hidden',
    'covered',
    'faint',
    'trouble',
    'no-button',
    'answer-missing',
    'submit-stopped',
    'send-blocked',
  ] as const),
]
/** What the browser itself says that it forbids is no matter of time. */
const isByTime = (obstacle: Obstacle | null) =>
  obstacle !== null && BY_TIME.includes(obstacle.code) && !FORBIDS.test(obstacle.detail)
/** Where others had so much of the processors, a browser had too little time. */
const BUSY_FROM = 0.7
/** By how much more time the second try has. */
const MORE_TIME = 3

interface Running {
  browser: Browser
  run: string
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
  /** Rehearsals that ended: what still asks for them is late. */
  private readonly over = new Set<string>()
  private known: BrowserReadiness | null = null

  constructor(
    private readonly settings: Pick<Settings, 'publicUrl' | 'standIns' | 'serviceStandIns' | 'browser'>,
    private readonly paths: readonly string[] = PATHS,
    private readonly limits = LIMITS,
  ) {}

  /** Starts it once to see whether it does. */
  async state(): Promise<BrowserReadiness> {
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

  /** Current state: a browser may have been installed since. */
  isThere(): boolean {
    return this.path() !== null && this.known?.state !== 'broken'
  }

  hasFirefox(): boolean {
    return this.settings.browser === null && isFirefoxThere()
  }

  private path(): string | null {
    const { browser } = this.settings
    if (browser === 'none') return null
    return (browser === null ? this.paths : [browser]).find((path) => existsSync(path)) ?? null
  }

  /** Opens a page for a rehearsal. What could not be seen is said, never thrown. */
  async visit(code: string, wish: VisitWish): Promise<Browsed<Visited>> {
    try {
      // Files of this computer, and pages of the browser's own, would not come through the proxy.
      readAddress(wish.address)
    } catch (error) {
      return { isTried: false, reason: reasonOf(error) }
    }
    if (wish.viewer === 'firefox') return this.visitInFirefox(wish)
    return this.within(code, wish.address, (running) => this.visitWithTime(running, code, wish))
  }

  /** Opens a mail for a rehearsal, and presses what is in it. */
  read(code: string, wish: MailWish): Promise<Browsed<MailRead>> {
    return this.within(code, wish.link, async ({ browser, proxy, run }) => {
      const userAgent = await agentOf(browser)
      const once = async (patience: number) => {
        const before = processorTimes(run)
        const seen = await readMail(browser, proxy.port, wish, { userAgent, patience })
        return { seen, taken: takenByOthers(before, processorTimes(run)) }
      }
      const first = await once(1)
      const isLate = first.seen.presses.some(
        ({ obstacle, complaints }) => isByTime(obstacle) && !complaints.some((text) => FORBIDS.test(text)),
      )
      if (!isLate || first.taken < BUSY_FROM) return { isTried: true, ...first.seen }
      const again = await once(MORE_TIME)
      // What was confirmed by the first cannot be confirmed once more: whichever got further has seen more.
      const further = again.seen.presses.length < first.seen.presses.length ? first : again
      return further.taken < this.limits.hopelessFrom
        ? { isTried: true, ...further.seen }
        : { isTried: false, reason: BUSY }
    })
  }

  /** Does something in a rehearsal's browser, within the time of one visit. */
  private async within<T>(
    code: string,
    address: string,
    act: (running: Running) => Promise<Browsed<T>>,
  ): Promise<Browsed<T>> {
    let timer: ReturnType<typeof setTimeout> | undefined
    try {
      const running = await this.runningFor(code)
      const { proxy } = running
      const limit = new Promise<never>((_, reject) => {
        timer = setTimeout(() => {
          reject(new NotOpened('The page was not done within its time.'))
          // One that never rests leaves nothing to work with.
          void this.close(code)
        }, this.limits.visitMs)
      })
      try {
        return await Promise.race([act(running), limit])
      } catch (error) {
        const refused = [...proxy.refusals].find(([one]) => address.startsWith(one))
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

  private async visitInFirefox(wish: VisitWish): Promise<Browsed<Visited>> {
    try {
      const { seen, takenByOthers } = await visitInFirefox(wish, this.allowed(), this.limits)
      const isLate = isByTime(seen.obstacle)
      return isLate && takenByOthers >= BUSY_FROM ? { isTried: false, reason: BUSY } : { isTried: true, ...seen }
    } catch (error) {
      return { isTried: false, reason: reasonOf(error) }
    }
  }

  /** Addresses of this computer that pages may be of. */
  private allowed(): string[] {
    const { publicUrl, standIns, serviceStandIns } = this.settings
    return [publicUrl, ...[standIns, serviceStandIns].filter((one) => one !== null)]
  }

  /**
   * One visit; once more, with more time, where nothing was found but that a time was over, and others had most of the
   * processors meanwhile.
   */
  private async visitWithTime(
    { browser, proxy, run }: Running,
    code: string,
    wish: VisitWish,
  ): Promise<Browsed<Visited>> {
    let taken = 0
    const once = async (patience: number, isDisguised = false) => {
      const before = processorTimes(run)
      const seen = await visit(browser, proxy.port, wish, { code, patience, isDisguised }).finally(
        () => (taken = takenByOthers(before, processorTimes(run))),
      )
      const isSound = seen.isThere ? !isByTime(seen.obstacle) : wish.comesByItself
      return { isTried: true as const, isSound, ...seen }
    }
    const first = await once(1).catch((error: unknown) => {
      if (taken < BUSY_FROM || !(error instanceof NotOpened)) throw error
      return null
    })
    // One that treats what a program drives as no visitor says nothing of visitors.
    if (first?.asksForPrograms === true && isStopped(first, wish) && !wasSent(first)) {
      const disguised = await once(1, true)
      if (!isStopped(disguised, wish))
        return { isTried: false, reason: refuses('it does not take what a program drives') }
    }
    if (first !== null && (first.isSound || taken < BUSY_FROM)) return first
    // What was sent is not sent again: the second answer would be that of somebody who is known.
    if (first !== null && wasSent(first)) return { isTried: false, reason: BUSY }
    const second = await once(MORE_TIME)
    return second.isSound || taken < this.limits.hopelessFrom ? second : { isTried: false, reason: BUSY }
  }

  /** Ends the processes of a rehearsal. */
  async end(code: string): Promise<void> {
    this.over.add(code)
    if (this.over.size > MOST_REMEMBERED) this.over.delete(this.over.values().next().value!)
    await this.close(code)
  }

  private async close(code: string): Promise<void> {
    const running = this.running.get(code)
    this.running.delete(code)
    await (await running?.catch(() => null))?.end()
    if (running !== undefined) this.waiting.shift()?.()
  }

  async stop(): Promise<void> {
    await Promise.all([...this.running.keys()].map((code) => this.end(code)))
  }

  private async runningFor(code: string): Promise<Running> {
    if (this.over.has(code)) throw new Error('The rehearsal is over.')
    const current = this.running.get(code)
    if (current !== undefined) {
      const running = await current
      if (running.browser.isConnected()) return running
      await this.close(code)
    }
    const path = this.path()
    if (path === null) throw new Error('There is none.')
    if (this.running.size >= MOST) await this.turn()
    const started = this.start(path)
    this.running.set(code, started)
    started.catch(() => void this.close(code))
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
    const { standIns } = this.settings
    const { chromium } = await import('playwright-core')
    const run = randomUUID()
    const [proxy, own] = await Promise.all([openGuardedProxy(this.allowed()), openGuardedProxy(null)])
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
        run,
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

/** Whether a visitor got no further than the page. */
const isStopped = ({ isThere, obstacle }: Visited, { comesByItself, fills }: VisitWish) =>
  obstacle !== null || (!isThere && !(comesByItself && fills === null))
const SENT = new Set(['answer-missing', 'answer-unseen', 'send-blocked', 'sent-elsewhere'])
const wasSent = ({ obstacle, answer }: Visited) => answer !== null || (obstacle !== null && SENT.has(obstacle.code))

const BUSY = 'The receiver is busy: its browser had too little time. Rehearse again when less goes on.'

/** Of what a browser says when it does not start, the line that tells why. */
function reasonOf(error: unknown): string {
  const lines = (error instanceof Error ? error.message : String(error)).split('\n').map((line) => line.trim())
  if (process.getuid?.() === 0 && lines.some((line) => /sandbox/i.test(line)))
    return 'The browser refuses to run as the system’s administrator (root): run the receiver as another user.'
  const telling = lines.find((line) => /sandbox|error while loading|permission denied|ENOENT|EACCES/i.test(line))
  return (telling ?? lines[0] ?? '').replace(/^(?:browserType|page)\.\w+: /, '').slice(0, 300)
}

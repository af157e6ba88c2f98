import { type ChildProcess, fork } from 'node:child_process'
import type { Browsed, MailRead, MailWish, Visited, VisitWish } from '#core/rehearsal'
import type { Settings } from '../settings'
import { Browsers, type BrowserReadiness, LIMITS } from './browsers'

type BrowserSettings = Pick<Settings, 'publicUrl' | 'standIns' | 'serviceStandIns' | 'browser'>

/** What the process is asked, with a number that its answer comes back with. */
export interface ProcessAsk {
  id: number
  what:
    | { kind: 'settings'; settings: BrowserSettings; limits: typeof LIMITS }
    | { kind: 'state' }
    | { kind: 'visit'; code: string; wish: VisitWish }
    | { kind: 'read'; code: string; wish: MailWish }
    | { kind: 'end'; code: string }
}
export interface ProcessAnswer {
  id: number
  result: unknown
  /** Whether there is a browser, as far as the process knows by now. */
  isThere: boolean
}

/** The browser of a receiver, wherever it is driven from. */
export type BrowserPort = Pick<Browsers, 'state' | 'isThere' | 'hasFirefox' | 'visit' | 'read' | 'end' | 'stop'>

/** So long after the last rehearsal the process is kept. */
const IDLE_MS = 20_000
const ENDED = 'The process that drives the browser ended.'

/**
 * The browser, driven from a process of its own: what comes from pages stays out of the one that has the keys and the store,
 * and the package that drives it costs sign-ups nothing (it has every promise of its process tracked). Begun when it is
 * needed, ended when it is not.
 */
export class BrowserProcess implements BrowserPort {
  private child: ChildProcess | null = null
  private readonly asked = new Map<number, { resolve(answer: ProcessAnswer): void; reject(error: Error): void }>()
  private readonly rehearsals = new Set<string>()
  private lastId = 0
  private known: BrowserReadiness | null = null
  private isBroken = false
  private idle: ReturnType<typeof setTimeout> | undefined
  /** Looks whether one is installed; starts nothing. */
  private readonly installed: Browsers

  /** @param program path of `process.ts` as it was built */
  constructor(
    private readonly settings: BrowserSettings,
    private readonly program: string,
    private readonly limits = LIMITS,
  ) {
    this.installed = new Browsers(settings)
  }

  async state(): Promise<BrowserReadiness> {
    if (!this.installed.isThere()) return { state: 'none' }
    // Starting one to see whether it does takes a second of both cores.
    if (this.known?.state === 'ready' && !this.isBroken) return this.known
    this.known = await this.ask<BrowserReadiness>({ kind: 'state' }).catch(
      () => ({ state: 'broken', path: this.program, reason: ENDED }) as const,
    )
    return this.known
  }

  isThere(): boolean {
    return this.installed.isThere() && !this.isBroken
  }

  hasFirefox(): boolean {
    return this.isThere() && this.installed.hasFirefox()
  }

  async visit(code: string, wish: VisitWish): Promise<Browsed<Visited>> {
    this.rehearsals.add(code)
    return this.ask<Browsed<Visited>>({ kind: 'visit', code, wish }).catch(() => ({ isTried: false, reason: ENDED }))
  }

  async read(code: string, wish: MailWish): Promise<Browsed<MailRead>> {
    this.rehearsals.add(code)
    return this.ask<Browsed<MailRead>>({ kind: 'read', code, wish }).catch(() => ({ isTried: false, reason: ENDED }))
  }

  async end(code: string): Promise<void> {
    if (!this.rehearsals.delete(code) || this.child === null) return
    await this.ask<void>({ kind: 'end', code }).catch(() => {})
  }

  async stop(): Promise<void> {
    clearTimeout(this.idle)
    const { child } = this
    if (child === null) return
    this.letGoOf(child)
    const ended = new Promise((resolve) => child.once('exit', resolve))
    if (child.connected) child.disconnect()
    const late = setTimeout(() => child.kill('SIGKILL'), 8_000)
    await ended
    clearTimeout(late)
  }

  private async ask<Result>(what: ProcessAsk['what']): Promise<Result> {
    clearTimeout(this.idle)
    this.child ??= this.begin()
    try {
      const { result, isThere } = await this.send(what)
      this.isBroken = !isThere
      return result as Result
    } finally {
      if (this.asked.size === 0 && this.rehearsals.size === 0)
        this.idle = setTimeout(() => void this.stop(), IDLE_MS).unref()
    }
  }

  private send(what: ProcessAsk['what']): Promise<ProcessAnswer> {
    return new Promise((resolve, reject) => {
      const id = (this.lastId += 1)
      this.asked.set(id, { resolve, reject })
      this.child!.send({ id, what } satisfies ProcessAsk, (error) => {
        if (error === null) return
        this.asked.delete(id)
        reject(error)
      })
    })
  }

  private begin(): ChildProcess {
    const child = fork(this.program, [], {
      // Dates and bytes come as they are.
      serialization: 'advanced',
      // Nothing of the receiver's own surroundings: its key and its mail server's password stand there.
      env: { PATH: process.env.PATH ?? '', LANG: 'C.UTF-8' },
      execArgv: [],
      stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    })
    this.child = child
    child.on('message', (answer: ProcessAnswer) => {
      const asked = this.asked.get(answer.id)
      this.asked.delete(answer.id)
      asked?.resolve(answer)
    })
    child.once('exit', () => this.letGoOf(child))
    child.on('error', () => this.letGoOf(child))
    void this.send({ kind: 'settings', settings: this.settings, limits: this.limits }).catch(() => {})
    return child
  }

  /** Rejects all pending calls. */
  private letGoOf(child: ChildProcess): void {
    if (this.child !== child) return
    this.child = null
    for (const { reject } of this.asked.values()) reject(new Error(ENDED))
    this.asked.clear()
  }
}

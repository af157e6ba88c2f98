import type { Browsed, MailRead, MailWish, Visited, VisitWish } from '#core/rehearsal'
import { complain } from '../log'
import { newId } from '../random'
import type { Values } from '../values'
import type { BrowserPort } from './browser-process'
import type { BrowserReadiness } from './browsers'

const THERE = 'browser at '
const WISH = 'visit wished '
const DONE = 'visit done '
const BEAT_MS = 10_000
/** Without a beat for so long, the receiver or its browser is gone. */
const THERE_FOR_MS = 35_000
const LOOK_MS = 250
/** Longer than a visit may take. */
const LONGEST_MS = 150_000

interface There {
  hasFirefox: boolean
  state: BrowserReadiness
}
/** What a browser elsewhere is asked for. */
type Asked = { kind: 'visit'; wish: VisitWish } | { kind: 'read'; wish: MailWish }
interface Wish {
  code: string
  asked: Asked
  /** Who does it; empty while nobody has taken it. */
  by: string
}

/**
 * Browsers of receivers that share a store: a rehearsal that asks a receiver without one is visited by another's. Each visit
 * has an empty profile, so it does not matter whose.
 */
export class SharedBrowsers implements BrowserPort {
  private elsewhere: There[] = []
  private readonly me = newId<string>()
  private readonly doing = new Set<Promise<void>>()

  constructor(
    private readonly own: BrowserPort,
    private readonly values: Values,
    private readonly now: () => number,
  ) {}

  /** @param listen calls what it is given after commits, those of other receivers too, until what it returns is called */
  start(listen: (heard: () => void) => () => void): () => void {
    let timer: ReturnType<typeof setTimeout> | null = null
    const look = () => {
      if (this.own.isThere())
        timer ??= setTimeout(() => {
          timer = null
          void this.serve().catch(complain)
        }, LOOK_MS)
    }
    const stopListening = listen(look)
    const beat = () => void this.beat().catch(complain)
    beat()
    const beating = setInterval(beat, BEAT_MS)
    beating.unref()
    return () => {
      stopListening()
      clearInterval(beating)
      if (timer !== null) clearTimeout(timer)
    }
  }

  async state(): Promise<BrowserReadiness> {
    const own = await this.own.state()
    return own.state === 'ready' ? own : (this.elsewhere[0]?.state ?? own)
  }

  isThere = () => this.own.isThere() || this.elsewhere.length > 0
  hasFirefox = () => this.own.hasFirefox() || this.elsewhere.some(({ hasFirefox }) => hasFirefox)

  async visit(code: string, wish: VisitWish): Promise<Browsed<Visited>> {
    return this.own.isThere() ? this.own.visit(code, wish) : this.elsewhereDone(code, { kind: 'visit', wish })
  }

  async read(code: string, wish: MailWish): Promise<Browsed<MailRead>> {
    return this.own.isThere() ? this.own.read(code, wish) : this.elsewhereDone(code, { kind: 'read', wish })
  }

  private async elsewhereDone<T>(code: string, asked: Asked): Promise<Browsed<T>> {
    const id = newId<string>()
    const until = this.now() + LONGEST_MS
    await this.values.keep(WISH + id, { code, asked, by: '' } satisfies Wish, until)
    const end = performance.now() + LONGEST_MS
    while (performance.now() < end) {
      const done = (await this.values.value(DONE + id)) as Browsed<T> | null
      if (done !== null) {
        await this.values.drop(DONE + id)
        return done
      }
      await new Promise((resolve) => setTimeout(resolve, LOOK_MS))
    }
    await this.values.drop(WISH + id)
    return { isTried: false, reason: 'No other receiver’s browser answered.' }
  }

  end = (code: string) => this.own.end(code)

  async stop(): Promise<void> {
    await this.values.drop(THERE + this.me).catch(complain)
    await this.own.stop()
    await Promise.all(this.doing)
  }

  private async beat(): Promise<void> {
    if (this.own.isThere()) {
      const there: There = { hasFirefox: this.own.hasFirefox(), state: await this.own.state() }
      await this.values.keep(THERE + this.me, there, this.now() + THERE_FOR_MS)
    }
    const all = await this.values.named(THERE)
    this.elsewhere = all.filter(({ name }) => name !== THERE + this.me).map(({ value }) => value as There)
  }

  /** Does what others wish for that nobody has taken. */
  private async serve(): Promise<void> {
    for (const { name, value } of await this.values.named(WISH)) {
      if ((value as Wish).by !== '') continue
      const taken = await this.values.change<Wish>(
        name,
        (wish) => (wish === null ? undefined : wish.by === '' ? { ...wish, by: this.me } : wish),
        this.now() + LONGEST_MS,
      )
      if (taken?.by !== this.me) continue
      const doing = this.visitFor(name.slice(WISH.length), taken).catch(complain)
      this.doing.add(doing)
      void doing.then(() => this.doing.delete(doing))
    }
  }

  private async visitFor(id: string, { code, asked }: Wish): Promise<void> {
    const { kind, wish } = asked
    const done = await (kind === 'visit' ? this.own.visit(code, wish) : this.own.read(code, wish))
    await this.values.keep(DONE + id, done, this.now() + LONGEST_MS)
    await this.values.drop(WISH + id)
    await this.own.end(code)
  }
}

import type { Context } from 'hono'
import { isbot } from 'isbot'
import { type Beacon, dayAfter, type Device, deviceOf, localTime } from '#core/results'
import type { CameFrom } from '#core/journal'
import { sourceOf } from '#core/signup'
import type { SpotId } from '#core/ids'
import { keepableText } from '#core/text'
import { addressLimiter, type Limiter } from '../limits'
import type { Ledger } from '../ledger'
import type { CountedView } from './results'
import { type NotedView, newView, viewIn } from './view-notes'

/** Different sources of one spot on one day; the rest are counted together. */
const MOST_SOURCES = 40
const OTHERS = 'others'
/** Views of one address on one day: a class with one connection, and an end to what would move a result. Further ones are counted apart. */
const VIEWS_A_DAY = 60
const DAY_SECONDS = 86_400

/** News of one view. */
interface Told {
  view: NotedView
  isSeen: boolean
  isStarted: boolean
}

type Limits = Record<'views' | 'starts' | 'signUps', Limiter>

/** Who looked, as far as it is counted. */
interface Whence {
  cameFrom: CameFrom
  device: Device
  /** The visitor's address, which no row keeps. */
  address: string
}

/** Counts how often forms are seen and begun: sums only, of nobody. */
export class Counting {
  /** By day and spot, what led there so far. */
  private readonly sources = new Map<string, Promise<Set<string>>>()
  /** Each of these moves a rate, so each has the same limit. */
  private readonly limits: Limits

  constructor(
    private readonly ledger: Ledger,
    private readonly now: () => number,
    newLimiter = () => addressLimiter(VIEWS_A_DAY, DAY_SECONDS),
  ) {
    this.limits = { views: newLimiter(), starts: newLimiter(), signUps: newLimiter() }
  }

  /** A new view of a form that is sent to somebody. */
  async newView(spot: SpotId, version: number): Promise<NotedView & { note: string }> {
    return newView(await this.ledger.linkKeys(), spot, version, this.now())
  }

  /** Counts a page's beacon; resolves when it is on disk. */
  async take({ forms, cameFrom, width }: Beacon, address: string): Promise<void> {
    const published = this.ledger.published()
    const ours = forms.filter(({ spot }) => published.spot(spot) !== undefined)
    // A receiver that is still to be filled writes nothing of its own.
    if (ours.length === 0) return
    const keys = await this.ledger.linkKeys()
    const told = new Map<string, Told>()
    for (const { spot, view: note, isSeen, isStarted } of ours) {
      const view = viewIn(keys, note, spot, this.now())
      // The same form twice on a page is seen by the same eyes.
      if (view !== null && !told.has(spot)) told.set(spot, { view, isSeen, isStarted })
    }
    const whence = { cameFrom, device: deviceOf(width), address }
    const counted = []
    for (const one of told.values()) counted.push(await this.countable(one, whence))
    await this.ledger.results.count(
      counted.filter((one) => one !== null),
      this.now(),
    )
  }

  /** Counts one that this server itself has sent. Nobody waits for it. */
  async served(view: NotedView, whence: Whence): Promise<void> {
    const counted = await this.countable({ view, isSeen: true, isStarted: false }, whence)
    if (counted !== null) await this.ledger.results.count([counted], this.now())
  }

  /** The view that a sign-up brings back, to be counted with it; null where it brings none that counts. */
  async signedUp(note: string, spot: SpotId, version: number, whence: Whence): Promise<CountedView | null> {
    if (note === '') return null
    const view = viewIn(await this.ledger.linkKeys(), note, spot, this.now())
    if (view?.version !== version || this.limits.signUps.take(whence.address) > 0) return null
    return this.countable({ view, isSeen: true, isStarted: true }, whence, {})
  }

  private async countable(
    { view, isSeen, isStarted }: Told,
    { cameFrom, device, address }: Whence,
    limits: Partial<Limits> = this.limits,
  ): Promise<CountedView | null> {
    const published = this.ledger.published()
    const spot = published.spot(view.spot)
    // Spots that are not live are not counted.
    if (spot?.state !== 'live' || published.version(spot.form, view.version) === undefined) return null
    const { day, hour } = localTime(this.now(), published.site(spot.site)?.zone ?? 'UTC')
    const isTooMany = (limiter: Limiter | undefined) => limiter !== undefined && limiter.take(address) > 0
    const isViewAside = isSeen && isTooMany(limits.views)
    const isStartAside = isStarted && isTooMany(limits.starts)
    const source = sourceOf({ ...cameFrom, source: cameFrom.source || spot.source })
    const known = await this.bounded(day, spot.id, keepableText(source, 60))
    return { ...view, day, hour, source: known, device, isSeen, isStarted, isAside: isViewAside || isStartAside }
  }

  /** A source by its name, while there are few. */
  private async bounded(day: string, spot: SpotId, source: string): Promise<string> {
    const key = `${day} ${spot}`
    let known = this.sources.get(key)
    if (known === undefined) {
      // Sites may be on three days at once, by their clocks.
      for (const old of this.sources.keys()) if (old.slice(0, 10) < dayAfter(day, -2)) this.sources.delete(old)
      known = this.ledger.results.sources(day, spot, MOST_SOURCES).then((names) => new Set(names))
      // What could not be read is asked for again.
      known.catch(() => this.sources.delete(key))
      this.sources.set(key, known)
    }
    const names = await known
    if (!names.has(source) && names.size >= MOST_SOURCES) return OTHERS
    names.add(source)
    return source
  }
}

/** Whether who asks is to be counted: no program, and nobody who said that they are not to be followed. */
export function isCounted(c: Context): boolean {
  // Global Privacy Control, and Do Not Track (W3C, "Tracking Preference Expression").
  if (c.req.header('Sec-GPC') === '1' || c.req.header('DNT') === '1') return false
  // Fetched before anybody asked for it.
  if (/prefetch|prerender/i.test(c.req.header('Sec-Purpose') ?? c.req.header('Purpose') ?? '')) return false
  return !isbot(c.req.header('User-Agent') ?? '')
}

/** Kind of device by the User-Agent, where no window width is known. */
export function deviceOfBrowser(c: Context): Device {
  const agent = c.req.header('User-Agent') ?? ''
  if (/\bMobi/i.test(agent) && !/\biPad\b/.test(agent)) return 'phone'
  // Tablets of one maker say that they are computers; common practice, from memory.
  return /\b(?:Android|iPad|Tablet)\b/.test(agent) ? 'tablet' : 'computer'
}

import type { Context } from 'hono'
import { isbot } from 'isbot'
import { type Beacon, dayAfter, type Device, deviceOf, localTime, sourceWords } from '#core/results'
import type { SpotId } from '#core/ids'
import { keepableText } from '#core/text'
import { addressLimiter, type Limiter } from '../limits'
import type { Ledger } from '../ledger'
import { newId } from '../random'

/** Different sources of one spot on one day; the rest are counted together. */
const MOST_SOURCES = 40
const OTHERS = 'others'
/** Views of one address on one day: a class with one connection, and an end to what would move a result. Further ones are counted apart. */
const VIEWS_A_DAY = 60
const DAY_SECONDS = 86_400

/** How one view came to be counted. */
interface View {
  spot: SpotId
  version: number
  isSeen: boolean
  isStarted: boolean
}

/** Counts how often forms are seen and begun: sums only, of nobody. */
export class Counting {
  /** By day and spot, what led there so far. */
  private readonly sources = new Map<string, Set<string>>()

  constructor(
    private readonly ledger: Ledger,
    private readonly now: () => number,
    private readonly limiter: Limiter = addressLimiter(VIEWS_A_DAY, DAY_SECONDS),
  ) {}

  /** Counts what a page says of its forms, once; resolves when it is on disk. */
  async take(beacon: Beacon, address: string): Promise<void> {
    const source = sourceWords(beacon.mark, beacon.campaign, beacon.referrer && `https://${beacon.referrer}/`)
    await this.count(beacon.id, beacon.forms, { source, device: deviceOf(beacon.width), address })
  }

  /** Counts one that this server itself has sent. Nobody waits for it. */
  async served(spot: SpotId, version: number, source: string, device: Device, address: string): Promise<void> {
    const view = { spot, version, isSeen: true, isStarted: false }
    await this.count(newId<string>(), [view], { source, device, address })
  }

  private async count(
    id: string,
    views: readonly View[],
    { source, device, address }: { source: string; device: Device; address: string },
  ): Promise<void> {
    const { ledger } = this
    const published = ledger.published()
    const at = this.now()
    const counted = []
    for (const view of views) {
      const spot = published.spot(view.spot)
      // What stands in no site of the owner's, or not any more, is nobody's to count.
      if (spot?.state !== 'live' || published.version(spot.form, view.version) === undefined) continue
      const { day, hour } = localTime(at, published.site(spot.site)?.zone ?? 'UTC')
      const isAside = view.isSeen && this.limiter.take(address) > 0
      const known = await this.bounded(day, spot.id, keepableText(source, 60))
      counted.push({ ...view, spot: spot.id, day, hour, source: known, device, isAside })
    }
    if (counted.length === 0) return
    await ledger.results.count(id, at, counted)
  }

  /** A source by its name, while there are few. */
  private async bounded(day: string, spot: SpotId, source: string): Promise<string> {
    const key = `${day} ${spot}`
    let known = this.sources.get(key)
    if (known === undefined) {
      // Sites may be on three days at once, by their clocks.
      for (const old of this.sources.keys()) if (old.slice(0, 10) < dayAfter(day, -2)) this.sources.delete(old)
      this.sources.set(key, (known = new Set(await this.ledger.results.sources(day, spot, MOST_SOURCES))))
    }
    if (!known.has(source) && known.size >= MOST_SOURCES) return OTHERS
    known.add(source)
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

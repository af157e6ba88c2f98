import { codeOf } from '#core/embed'
import { crawlChanges, type CrawlReport, type CrawlState, isSound } from '#core/crawl'
import type { SiteId } from '#core/ids'
import type { ExpectedCode } from '#core/install'
import { addressProblem, type Site, sitePath, sitesBelow } from '#core/site'
import { type Spot, spotName } from '#core/spot'
import { complain } from '../log'
import type { Ledger } from '../ledger'
import type { Settings } from '../settings'
import { type RecurringJob, UnderWay } from '../work'
import { crawl } from './crawl'
import { type Kept, keptCrawls, reportName } from './kept'

const HOUR_MS = 3_600_000
const WEEK_MS = 7 * 24 * HOUR_MS
const repeatName = (site: string) => `pages of ${site} each week`

export interface CrawlParts {
  ledger: Ledger
  settings: Settings
  now(): number
  /** The built `site-thread.ts`. */
  thread: string | undefined
}

/** Sites looked through: one time each after the other, by hand or each week. */
export class Crawls {
  private readonly underWay: UnderWay<NonNullable<CrawlState['running']>>

  constructor(private readonly parts: CrawlParts) {
    this.underWay = new UnderWay(parts.ledger.values, parts.now, 'pages of')
  }

  async state(site: string): Promise<CrawlState> {
    const kept = await this.kept(site)
    const going = await this.underWay.state(site)
    const running = going?.state === 'going' || going?.state === 'stopped' ? going.progress : null
    const isRepeated = (await this.parts.ledger.values.value(repeatName(site))) === true
    return { ...kept, running, isRepeated }
  }

  /** Begins to look, unless it is looked already. */
  async begin(site: Site): Promise<void> {
    if ((await this.underWay.state(site.id))?.state === 'going') return
    const { ledger, settings, now, thread } = this.parts
    const going = { at: now(), done: 0, of: 0, doing: 'finding' as const, page: '' }
    const run = await this.underWay.begin(site.id, going)
    const { standIns } = settings
    crawl({
      address: site.address,
      apart: sitesBelow(site.address, ledger.published().siteAddresses()),
      expected: expectedOn(ledger, settings, site),
      allowed: standIns === null ? [] : [standIns],
      thread,
      now,
      isStopped: () => run.isStopped(),
      progress: (at) => run.report(Object.assign(going, at)),
    })
      .then(async (crawled) => {
        const kept = await this.kept(site.id)
        await this.keep(
          site.id,
          crawled.ok ? { newest: crawled.report, before: kept.newest, said: '' } : { ...kept, said: crawled.said },
        )
      })
      .catch(async (error: unknown) => {
        complain(error)
        await this.keep(site.id, { ...(await this.kept(site.id)), said: 'It broke off. Try again.' })
      })
      .finally(() => run.end())
      .catch(complain)
  }

  stop(site: string): Promise<void> {
    return this.underWay.stop(site)
  }

  async repeat(site: string, isRepeated: boolean): Promise<void> {
    await this.parts.ledger.values.keep(repeatName(site), isRepeated, null)
  }

  /** Spots that stand wrong, or do no longer stand where they did, by the newest time. */
  async needs(): Promise<{ site: SiteId; spot: string; said: string; pages: string[] }[]> {
    const published = this.parts.ledger.published()
    const spots = published.liveSpots()
    const sites = [...new Set(spots.map(({ site }) => site))]
    const all = await Promise.all(
      sites.map(async (site) => {
        const { newest, before } = await this.kept(site)
        if (newest === null) return []
        return spots.filter((spot) => spot.site === site).flatMap((spot) => needOf(spot, site, newest, before) ?? [])
      }),
    )
    return all.flat()
  }

  job(): RecurringJob {
    return {
      name: 'sites looked through',
      everyMs: HOUR_MS,
      firstAfterMs: 10 * 60_000,
      longestMs: 10 * 60_000,
      run: async () => {
        const published = this.parts.ledger.published()
        const sites = new Set(published.liveSpots().map(({ site }) => site))
        for (const id of sites) {
          const { isRepeated, newest } = await this.state(id)
          const site = published.site(id)
          const isDue = newest === null || this.parts.now() - newest.endedAt > WEEK_MS
          if (isRepeated && isDue && site !== undefined && addressProblem(site.address) === null) await this.begin(site)
        }
      },
    }
  }

  private kept(site: string): Promise<Kept> {
    return keptCrawls(this.parts.ledger.values, site)
  }

  private async keep(site: string, kept: Kept): Promise<void> {
    await this.parts.ledger.values.keep(reportName(site), kept, null)
  }
}

function needOf(spot: Spot, site: SiteId, newest: CrawlReport, before: CrawlReport | null) {
  const own = newest.pages.flatMap(({ path, spots }) => {
    const here = spots[spot.id]
    return here === undefined || isSound(here.state) ? [] : [{ path, said: here.said }]
  })
  const gone =
    before === null
      ? []
      : crawlChanges(before, newest).filter((one) => one.spot === spot.id && one.is === null && isSound(one.was))
  const [first] = own
  if (first === undefined && gone.length === 0) return null
  const said = first?.said ?? 'It does not stand there any more, where it did the time before.'
  const pages = [...own, ...gone].map(({ path }) => path)
  return { site, spot: spot.id as string, said, pages: pages.slice(0, 50) }
}

/** What is looked for on a site's pages: each live spot that stands on one. */
function expectedOn(ledger: Ledger, { publicUrl }: Settings, site: Site): ExpectedCode[] {
  const published = ledger.published()
  const all = [...published.liveSpots(), ...published.closedSpots()]
  const sites = [site]
  const others = new Map(all.map((spot) => [spot.id as string, spotName(spot, sites)]))
  return published
    .liveSpots()
    .filter((spot) => spot.site === site.id && spot.kind !== 'landing')
    .flatMap((spot) => {
      const versions = published.versionsOf(spot.form)
      const code = codeOf(spot, site)
      return versions.length === 0
        ? []
        : [{ spot, code, receiver: publicUrl, under: sitePath(site.address), versions, others }]
    })
}

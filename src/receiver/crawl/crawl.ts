import type { CrawlReport, LookedPage } from '#core/crawl'
import type { ExpectedCode } from '#core/install'
import { pathInSite } from '#core/site'
import { fetchPage, OutsideProblem } from '../outside'
import { MOST_PAGES, pagesFromSitemaps } from './find-pages'
import { openReading } from '../reading'
import { type SiteReading, siteReadings } from './site-readings'
import { type Robots, robotsOf, USER_AGENT } from './robots'

/** Between two requests to one site, so that no visitor waits for us. */
const PACE_MS = 250
/** Pretend sites of this computer are asked faster. */
const STAND_IN_PACE_MS = 10
const MOST_REMARKS = 20
/** Addresses that are no pages. */
const FILES = /\.(?:pdf|zip|jpe?g|png|gif|webp|svg|mp[34]|ics|css|js|xml|json|docx?|xlsx?)$/i

export interface CrawlWish {
  address: string
  expected: readonly ExpectedCode[]
  /** Paths of further sites of the owner’s below it. */
  apart: readonly string[]
  /** Origins that may be asked although they are of this computer. */
  allowed: readonly string[]
  /** The built `site-thread.ts`; undefined where sources run. */
  thread: string | undefined
  now(): number
  isStopped(): boolean
  progress(at: { done: number; of: number; doing: 'finding' | 'looking'; page: string }): void
}

export type Crawled = { ok: true; report: CrawlReport } | { ok: false; said: string }

/** Looks through a site, a page at a time. */
export async function crawl(wish: CrawlWish): Promise<Crawled> {
  const at = wish.now()
  wish.progress({ done: 0, of: 0, doing: 'finding', page: '' })
  const robots = await robotsOf(new URL(wish.address.trim()).origin, wish.allowed)
  if (robots.said !== '') return { ok: false, said: robots.said }
  const reading = openReading(wish.thread, siteReadings)
  try {
    return outcomeOf(await lookThrough(wish, robots, reading), wish, at)
  } finally {
    reading.end()
  }
}

type LookedThrough = Pick<CrawlReport, 'from' | 'found' | 'forbidden' | 'pages' | 'remarks'>

async function lookThrough(wish: CrawlWish, robots: Robots, reading: SiteReading): Promise<LookedThrough> {
  const { address, apart, allowed, isStopped, progress } = wish
  const site = new URL(address.trim())
  const pace = allowed.includes(site.origin) ? STAND_IN_PACE_MS : PACE_MS
  const rest = () => new Promise<void>((resolve) => setTimeout(resolve, pace))
  const listed = await pagesFromSitemaps(address, robots, { apart, allowed, rest, isStopped, reading })
  const from = listed.addresses.length > 0 ? 'sitemap' : 'links'
  const waiting = from === 'sitemap' ? listed.addresses : [site.href]
  const known = new Set(waiting)
  const isFurther = (link: string) =>
    !known.has(link) &&
    known.size < 4 * MOST_PAGES &&
    pathInSite(link, address, apart) !== null &&
    !FILES.test(new URL(link).pathname)
  const pages = new Map<string, LookedPage>()
  let forbidden = 0
  while (waiting.length > 0 && pages.size < MOST_PAGES && !isStopped()) {
    const page = waiting.shift()!
    if (!robots.allows(page)) {
      forbidden++
      continue
    }
    const of = Math.min(MOST_PAGES, pages.size + waiting.length + 1)
    progress({ done: pages.size, of, doing: 'looking', page })
    await rest()
    const { path: found, spots, links, problem } = await lookAt(page, wish, reading)
    const path = found ?? pathInSite(page, address, apart) ?? page
    // Several addresses may lead to one page.
    if (!pages.has(path)) pages.set(path, { path, spots, ...(problem !== undefined && { problem }) })
    if (from === 'links')
      for (const link of links.filter(isFurther)) {
        known.add(link)
        waiting.push(link)
      }
  }
  const found = from === 'sitemap' ? listed.found : known.size
  return { from, found, forbidden, pages: [...pages.values()], remarks: listed.remarks.slice(0, MOST_REMARKS) }
}

function outcomeOf(looked: LookedThrough, { now, isStopped, expected }: CrawlWish, at: number): Crawled {
  const { pages, forbidden } = looked
  const [only] = pages
  if (pages.length === 1 && only?.problem !== undefined) return { ok: false, said: only.problem }
  if (pages.length === 0 && forbidden > 0)
    return { ok: false, said: 'The site’s robots.txt keeps programs from its pages.' }
  if (pages.length === 0) return { ok: false, said: 'No page was found.' }
  const spots = expected.map(({ spot }) => spot.id)
  return { ok: true, report: { ...looked, at, endedAt: now(), isStopped: isStopped(), spots } }
}

interface Looked {
  path: string | null
  spots: LookedPage['spots']
  links: string[]
  problem?: string
}

async function lookAt(
  page: string,
  { allowed, address, apart, expected }: CrawlWish,
  reading: SiteReading,
): Promise<Looked> {
  const nothing = { path: null, spots: {}, links: [] }
  try {
    // By the name that the site’s robots.txt is read for (RFC 9309, section 2.2.1).
    const headers = { origin: new URL(page).origin, values: { 'User-Agent': USER_AGENT } }
    const fetched = await fetchPage(page, allowed, { headers })
    if (fetched.status >= 400) return { ...nothing, problem: `It answers ${fetched.status}.` }
    const path = pathInSite(fetched.address, address, apart)
    if (path === null) return { ...nothing, problem: 'It leads on to another site.' }
    return { path, ...(await reading.read('page', fetched, expected)) }
  } catch (error) {
    if (!(error instanceof OutsideProblem)) throw error
    return { ...nothing, problem: error.message }
  }
}

import { pathInSite } from '#core/site'
import { spread } from '#core/crawl'
import { guardedRequest, OutsideProblem } from '../outside'
import { type Robots, USER_AGENT } from './robots'
import type { SiteReading } from './site-readings'
import { MOST_BYTES, MOST_ENTRIES, type Sitemap, SitemapProblem } from './sitemap'

/** So many pages are looked at, at most. */
export const MOST_PAGES = 500
/** Of an index; more are named as not read. */
const MOST_SITEMAPS = 50

export interface FoundPages {
  /** Whole addresses, at most `MOST_PAGES`; empty where there is no sitemap. */
  addresses: string[]
  found: number
  remarks: string[]
}

/** Pages of a site from its sitemaps: those that its `robots.txt` names, else the usual address. */
export async function pagesFromSitemaps(
  site: string,
  robots: Robots,
  {
    apart,
    allowed,
    rest,
    isStopped,
    reading,
  }: {
    apart: readonly string[]
    allowed: readonly string[]
    rest(): Promise<void>
    isStopped(): boolean
    reading: SiteReading
  },
): Promise<FoundPages> {
  const root = new URL(site)
  const named = robots.sitemaps.filter((address) => URL.canParse(address))
  const usual = [...new Set([new URL('sitemap.xml', folderOf(root)).href, new URL('/sitemap.xml', root).href])]
  const waiting = named.length > 0 ? named.slice(0, MOST_SITEMAPS) : usual
  const asked = new Set<string>()
  const pages = new Map<string, string | null>()
  const remarks: string[] = []
  while (waiting.length > 0 && asked.size < MOST_SITEMAPS && !isStopped()) {
    const address = waiting.shift()!
    if (asked.has(address)) continue
    asked.add(address)
    await rest()
    const isExpected = named.length > 0 || asked.size > usual.length
    const sitemap = await fetchSitemap(address, allowed, reading).catch((error: unknown) => {
      if (!(error instanceof SitemapProblem || error instanceof OutsideProblem)) throw error
      // Where none is named, what answers at the usual address may be any page, or nothing.
      const isNone = /^(?:This is no sitemap|It answers)/.test(error.message)
      if (isExpected || !isNone) remarks.push(`${address}: ${error.message}`)
      return null
    })
    if (sitemap === null) continue
    for (const entry of sitemap.entries) {
      if (!URL.canParse(entry.address)) continue
      const url = new URL(entry.address)
      // Section “Sitemap file location”: a sitemap tells of its own host alone.
      if (url.host !== root.host) continue
      if (sitemap.kind === 'index') waiting.push(url.href)
      else if (pathInSite(url.href, site, apart) !== null && pages.size < MOST_ENTRIES)
        pages.set(withoutFragment(url), entry.changedAt)
    }
    if (named.length === 0 && pages.size > 0 && sitemap.kind === 'pages') break
  }
  if (waiting.length > 0 && asked.size >= MOST_SITEMAPS)
    remarks.push(`Only the first ${MOST_SITEMAPS} sitemaps were read.`)
  // Newest first, so that of many those are looked at that have changed.
  const newest = [...pages].sort(([, one], [, other]) => (other ?? '').localeCompare(one ?? ''))
  const chosen = spread(
    newest.map(([address]) => ({ address, path: pathOf(new URL(address)) })),
    MOST_PAGES,
  )
  return { addresses: chosen.map(({ address }) => address), found: pages.size, remarks }
}

async function fetchSitemap(address: string, allowed: readonly string[], reading: SiteReading): Promise<Sitemap> {
  const { status, body } = await guardedRequest(address, {
    headers: { 'User-Agent': USER_AGENT, Accept: 'application/xml,text/xml,*/*;q=0.5' },
    allowed,
    limits: { bytes: MOST_BYTES, ms: 60_000 },
  })
  if (status >= 400) throw new OutsideProblem(`It answers ${status}.`)
  const read = await reading.read('sitemap', body)
  if ('said' in read) throw new SitemapProblem(read.said)
  return read
}

const folderOf = (url: URL) => new URL(url.pathname.endsWith('/') ? url : `${url.href.replace(/[?#].*/, '')}/`)
const withoutFragment = (url: URL) => `${url.origin}${url.pathname}${url.search}`
const pathOf = (url: URL) => `${url.pathname}${url.search}`

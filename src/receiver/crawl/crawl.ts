import type { CrawlReport, LookedPage } from '#core/crawl'
import type { ExpectedCode } from '#core/install'
import { pathInSite } from '#core/site'
import { fetchPage, OutsideProblem } from '../outside'
import { MOST_PAGES, pagesFromSitemaps } from './find-pages'
import { openJudge } from './judging'
import { robotsOf, USER_AGENT } from './robots'

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
  /** The built `judge-thread.ts`; undefined where sources run. */
  thread: string | undefined
  now(): number
  isStopped(): boolean
  progress(at: { done: number; of: number; doing: 'finding' | 'looking'; page: string }): void
}

export type Crawled = { ok: true; report: CrawlReport } | { ok: false; said: string }

/** Looks through a site, a page at a time. */
export async function crawl(wish: CrawlWish): Promise<Crawled> {
  const { address, apart, allowed, isStopped, progress, now } = wish
  const at = now()
  const site = new URL(address.trim())
  const pace = allowed.includes(site.origin) ? STAND_IN_PACE_MS : PACE_MS
  const rest = () => new Promise<void>((resolve) => setTimeout(resolve, pace))
  progress({ done: 0, of: 0, doing: 'finding', page: '' })
  const robots = await robotsOf(site.origin, allowed)
  if (robots.said !== '') return { ok: false, said: robots.said }
  const listed = await pagesFromSitemaps(address, robots, { apart, allowed, rest, isStopped })
  const from = listed.addresses.length > 0 ? 'sitemap' : 'links'
  const waiting = from === 'sitemap' ? listed.addresses : [site.href]
  const known = new Set(waiting)
  const pages: LookedPage[] = []
  const seen = new Set<string>()
  let forbidden = 0
  const remarks = new Set(listed.remarks)
  const judge = openJudge(wish.expected, wish.thread)
  try {
    while (waiting.length > 0 && pages.length < MOST_PAGES && !isStopped()) {
      const page = waiting.shift()!
      if (!robots.allows(page)) {
        forbidden++
        continue
      }
      progress({
        done: pages.length,
        of: Math.min(MOST_PAGES, pages.length + waiting.length + 1),
        doing: 'looking',
        page,
      })
      await rest()
      const looked = await lookAt(page, wish, judge)
      const path = looked.path ?? pathInSite(page, address, apart) ?? page
      // Several addresses may lead to one page.
      if (seen.has(path)) continue
      seen.add(path)
      pages.push({ path, spots: looked.spots, ...(looked.problem !== undefined && { problem: looked.problem }) })
      if (from === 'links')
        for (const link of looked.links)
          if (
            !known.has(link) &&
            known.size < 4 * MOST_PAGES &&
            pathInSite(link, address, apart) !== null &&
            !FILES.test(link)
          ) {
            known.add(link)
            waiting.push(link)
          }
    }
  } finally {
    judge.end()
  }
  const [only] = pages
  if (pages.length === 1 && only?.problem !== undefined) return { ok: false, said: only.problem }
  if (pages.length === 0)
    return {
      ok: false,
      said: forbidden > 0 ? 'The site’s robots.txt keeps programs from its pages.' : 'No page was found.',
    }
  return {
    ok: true,
    report: {
      ...{ at, endedAt: now(), from, forbidden, pages },
      found: from === 'sitemap' ? listed.found : known.size,
      remarks: [...remarks].slice(0, MOST_REMARKS),
      isStopped: isStopped(),
      spots: wish.expected.map(({ spot }) => spot.id),
    },
  }
}

interface Looked {
  path: string | null
  spots: LookedPage['spots']
  links: string[]
  problem?: string
}

async function lookAt(
  page: string,
  { allowed, address, apart }: CrawlWish,
  judge: ReturnType<typeof openJudge>,
): Promise<Looked> {
  const nothing = { path: null, spots: {}, links: [] }
  try {
    // By the name that the site’s robots.txt is read for (RFC 9309, section 2.2.1).
    const headers = { origin: new URL(page).origin, values: { 'User-Agent': USER_AGENT } }
    const fetched = await fetchPage(page, allowed, { headers })
    if (fetched.status >= 400) return { ...nothing, problem: `It answers ${fetched.status}.` }
    const path = pathInSite(fetched.address, address, apart)
    if (path === null) return { ...nothing, problem: 'It leads on to another site.' }
    return { path, ...(await judge.judge(fetched)) }
  } catch (error) {
    const isKnown = error instanceof OutsideProblem || error instanceof Error
    return { ...nothing, problem: isKnown ? error.message : 'It could not be looked at.' }
  }
}

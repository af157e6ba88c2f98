import robotsParser from 'robots-parser'
import { guardedRequest, OutsideProblem } from '../outside'

/** RFC 9309, section 2.2.1: what groups of rules name us by. */
export const PRODUCT_TOKEN = 'AskBox'
export const USER_AGENT = `Mozilla/5.0 (compatible; ${PRODUCT_TOKEN}; page check)`
/** RFC 9309, section 2.5: at least so much is read. */
const MOST_BYTES = 500 * 1024

export interface Robots {
  /** Whether a page of the host may be asked for. */
  allows(address: string): boolean
  sitemaps: string[]
  /** Why nothing may be asked for; empty where that is not so. */
  said: string
}

const all = (allowed: boolean, said = ''): Robots => ({ allows: () => allowed, sitemaps: [], said })

/** What a host's `robots.txt` allows, by RFC 9309. */
export async function robotsOf(origin: string, allowed: readonly string[]): Promise<Robots> {
  const address = `${origin}/robots.txt`
  try {
    const { status, body } = await guardedRequest(address, {
      headers: { 'User-Agent': USER_AGENT },
      allowed,
      // Section 2.3.1.2: five redirects are followed at least.
      limits: { bytes: 3 * 1024 * 1024, ms: 10_000, redirects: 5 },
    })
    // Section 2.3.1.3: unavailable means that everything is allowed.
    if (status >= 400 && status < 500) return all(true)
    // Section 2.3.1.4: unreachable means that nothing is.
    if (status >= 500)
      return all(false, `The site’s robots.txt answers ${status}: until it can be read, nothing may be looked at.`)
    return readRobots(address, body.subarray(0, MOST_BYTES).toString('utf8'))
  } catch (error) {
    if (!(error instanceof OutsideProblem)) throw error
    return all(false, `The site’s robots.txt cannot be read, so nothing may be looked at: ${error.message}`)
  }
}

/** What a `robots.txt` says, read from its text. */
export function readRobots(address: string, text: string): Robots {
  const rules = robotsParser(address, text)
  return {
    // `robots.txt` itself is always allowed, and what is of another host is none of its business.
    allows: (page) => rules.isAllowed(page, PRODUCT_TOKEN) !== false,
    sitemaps: rules.getSitemaps(),
    said: '',
  }
}

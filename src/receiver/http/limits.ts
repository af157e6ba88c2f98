import type { MiddlewareHandler } from 'hono'
import { addressLimiter, type Limiter, type RefusedNetworks } from '../limits'
import type { Settings } from '../settings'
import { sendProblem, tooManyRequests } from './problem'
import { visitorAddress } from './visitor-address'

/*
 * A limit is the rule: whatever path is asked counts for its network. What is counted otherwise stands here by name.
 */

/** Files that are the same for all and lie in memory or in caches, and what watchers ask: of these one page needs many. */
const MANY = /^\/(?:health|alive|metrics|assets\/.*|[\w.-]+\.(?:js|css|woff2|svg|png|ico|webmanifest))$/
const MANY_A_MINUTE = 6_000
/** Posts that keep a promise to a person: put off, never refused. */
const PUT_OFF = /^\/(?:leave|confirm)\//
const PUT_OFF_MS = 3_000
/** The owner's side is counted where its key is read: right keys are not. So are posts of sign-ups, which never get here. */
const ELSEWHERE = /^\/api\//

/** The limit of all paths. @param readLimiter for what visitors read and press */
export function limitsOfAll(
  { trustedProxies }: Pick<Settings, 'trustedProxies'>,
  readLimiter: Limiter,
  refused: RefusedNetworks,
): MiddlewareHandler {
  const manyLimiter = addressLimiter(MANY_A_MINUTE)
  return async (c, next) => {
    const { path } = c.req
    const isPreflight = c.req.method === 'OPTIONS'
    if (ELSEWHERE.test(path) && !isPreflight) return next()
    const visitor = visitorAddress(c, trustedProxies)
    const waitSeconds = (isPreflight || MANY.test(path) ? manyLimiter : readLimiter).take(visitor)
    if (waitSeconds === 0) return next()
    refused.note(visitor)
    if (c.req.method !== 'POST' || !PUT_OFF.test(path)) return sendProblem(c, tooManyRequests(waitSeconds))
    await new Promise((resolve) => setTimeout(resolve, PUT_OFF_MS))
    return next()
  }
}

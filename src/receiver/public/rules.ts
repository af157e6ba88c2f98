import { Hono } from 'hono'
import { codeOf } from '#core/embed'
import type { PublishedRule } from '#core/rule'
import { siteHost, sitePath, sitesBelow } from '#core/site'
import type { Spot } from '#core/spot'
import { validatorOf } from '../http/validator'
import type { Ledger } from '../ledger'

/** Shown from the browser's cache at once, and asked for anew beside that, so that a page need not wait for it. */
const CACHING = 'public, max-age=60, stale-while-revalidate=86400'

/** A rule that visitors meet; null for a spot that has none. */
function ruleAt(ledger: Ledger, spot: Spot): { host: string; rule: PublishedRule } | null {
  const published = ledger.published()
  const site = published.site(spot.site)
  const rule = spot.placing?.published ?? null
  if (rule === null || site === undefined || !isRuled(ledger, spot)) return null
  const apart = sitesBelow(site.address, published.siteAddresses())
  return {
    host: hostKey(siteHost(site.address.trim())),
    rule: { ...rule, spot: spot.id, under: sitePath(site.address), ...(apart.length > 0 && { apart }) },
  }
}

const rulesOf = (ledger: Ledger) =>
  ledger
    .published()
    .liveSpots()
    .flatMap((spot) => ruleAt(ledger, spot) ?? [])

/** With and without `www.`, a host is one site (common practice, no published source). */
const hostKey = (host: string) => host.toLowerCase().replace(/^www\./, '')

/** Whether any page has to ask for rules: asked with each visitor’s script, so of the spots alone. */
export const hasRules = (ledger: Ledger): boolean =>
  ledger
    .published()
    .liveSpots()
    .some((spot) => isRuled(ledger, spot))

function isRuled(ledger: Ledger, spot: Spot): boolean {
  const published = ledger.published()
  const isPublished = (spot.placing?.published ?? null) !== null && published.latestVersion(spot.form) !== undefined
  return isPublished && codeOf(spot, published.site(spot.site) ?? null) === 'rule'
}

/** `GET /rules/:host.json`: the rules for pages of a host. Nothing of it depends on who asks. */
export function ruleRoutes(ledger: Ledger): Hono {
  const routes = new Hono()
  routes.get('/rules/:name{[^/]{1,260}\\.json}', (c) => {
    const host = hostKey(c.req.param('name').replace(/\.json$/, ''))
    const rules = rulesOf(ledger).flatMap((one) => (one.host === host ? [one.rule] : []))
    const body = JSON.stringify({ rules })
    const validator = validatorOf(body)
    const headers = { 'Access-Control-Allow-Origin': '*', 'Cache-Control': CACHING, ETag: validator }
    return c.req.header('If-None-Match')?.replace(/^W\//, '') === validator
      ? c.body(null, 304, headers)
      : c.body(body, 200, { ...headers, 'Content-Type': 'application/json; charset=utf-8' })
  })
  return routes
}

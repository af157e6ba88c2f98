import type { OpenAPIHono } from '@hono/zod-openapi'
import { api } from '#core/api'
import { addressProblem } from '#core/site'
import { refused } from '../../http/answers'
import { described } from '../../http/described'
import type { Ledger } from '../../ledger'
import { fetchPage, OutsideProblem } from '../../outside'
import type { Settings } from '../../settings'
import type { Crawls } from '../crawls'
import { stillPath } from '../stills'

const paths = described(api.sites)

export interface CrawlApiParts {
  ledger: Ledger
  settings: Settings
  crawls: Crawls
  now(): number
}

/** The owner's side of whole sites: looked through, and a page looked at. */
export function crawlRoutes(routes: OpenAPIHono, { ledger, settings, crawls, now }: CrawlApiParts): void {
  const siteWith = (id: string) => {
    const site = ledger.published().site(id)
    return site === undefined || addressProblem(site.address) !== null ? null : site
  }
  const missing = { status: 404, title: 'Not there', detail: 'There is no such site, or it has no address.' } as const

  routes.openapi(paths.stillPage, async (c) => {
    const { address } = c.req.valid('json')
    try {
      const page = await fetchPage(address, settings.standIns === null ? [] : [settings.standIns])
      if (page.status >= 400) throw new OutsideProblem(`The page answers ${page.status}.`)
      return c.json({ path: await stillPath(ledger, page.address, now()), address: page.address }, 200)
    } catch (error) {
      if (!(error instanceof OutsideProblem)) throw error
      return refused(c, { status: 502, title: 'The page could not be fetched', detail: error.message })
    }
  })

  routes.openapi(paths.readCrawl, async (c) => {
    const site = siteWith(c.req.valid('param').id)
    return site === null ? refused(c, missing) : c.json(await crawls.state(site.id), 200)
  })
  routes.openapi(paths.beginCrawl, async (c) => {
    const site = siteWith(c.req.valid('param').id)
    if (site === null) return refused(c, missing)
    await crawls.begin(site)
    return c.json(await crawls.state(site.id), 200)
  })
  routes.openapi(paths.stopCrawl, async (c) => {
    const site = siteWith(c.req.valid('param').id)
    if (site === null) return refused(c, missing)
    await crawls.stop(site.id)
    return c.json(await crawls.state(site.id), 200)
  })
  routes.openapi(paths.repeatCrawl, async (c) => {
    const site = siteWith(c.req.valid('param').id)
    if (site === null) return refused(c, missing)
    await crawls.repeat(site.id, c.req.valid('json').isRepeated)
    return c.json(await crawls.state(site.id), 200)
  })
  routes.openapi(paths.crawlNeeds, async (c) => c.json({ needs: await crawls.needs() }, 200))
}

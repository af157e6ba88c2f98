import { api } from '#core/api'
import type { OpenAPIHono } from '@hono/zod-openapi'
import { fetchPage, OutsideProblem } from '../../outside'
import { refused } from '../../http/answers'
import type { Settings } from '../../settings'
import { described } from '../../http/described'

const paths = described(api.pages)

/** Pages of sites, as visitors get them. */
export function sitePageRoutes(routes: OpenAPIHono, settings: Settings): void {
  routes.openapi(paths.fetchOnePage, async (c) => {
    try {
      return c.json(
        await fetchPage(c.req.valid('json').address, settings.standIns === null ? [] : [settings.standIns]),
        200,
      )
    } catch (error) {
      if (!(error instanceof OutsideProblem)) throw error
      return refused(c, { status: 502, title: 'The page could not be fetched', detail: error.message })
    }
  })
}

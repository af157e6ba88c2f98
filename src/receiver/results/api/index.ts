import type { OpenAPIHono } from '@hono/zod-openapi'
import { api } from '#core/api'
import type { Ledger } from '../../ledger'
import { described } from '../../http/described'

const paths = described(api.results)

export function resultRoutes(routes: OpenAPIHono, ledger: Ledger): void {
  routes.openapi(paths.readSeen, async (c) => {
    const { from, to, closely, whole } = c.req.valid('query')
    const since = await ledger.results.since()
    if (closely === 'yes') return c.json({ ...(await ledger.results.closely(from, to)), since }, 200)
    const rows = await (whole === 'yes' ? ledger.results.over(from, to) : ledger.results.between(from, to))
    return c.json({ rows, hours: [], since }, 200)
  })
}

import { createRoute, type OpenAPIHono } from '@hono/zod-openapi'
import { z } from 'zod'
import { seenSchema } from '#core/api'
import type { Ledger } from '../../ledger'
import { answers, done, readings } from '../../http/answers'

const readSeen = createRoute({
  method: 'get',
  path: '/seen',
  summary:
    'How often forms were seen and begun on some days, both included, in sums; `closely` by kind of device and by the hour as well.',
  request: {
    query: z.object({
      from: z.iso.date().default('1970-01-01'),
      to: z.iso.date().default('9999-12-31'),
      closely: z.enum(['yes', 'no']).default('no'),
    }),
  },
  responses: { ...answers, ...readings, 200: done(seenSchema) },
})

export function resultRoutes(routes: OpenAPIHono, ledger: Ledger): void {
  routes.openapi(readSeen, async (c) => {
    const { from, to, closely } = c.req.valid('query')
    const since = await ledger.results.since()
    if (closely === 'yes') return c.json({ ...(await ledger.results.closely(from, to)), since }, 200)
    return c.json({ rows: await ledger.results.between(from, to), hours: [], since }, 200)
  })
}

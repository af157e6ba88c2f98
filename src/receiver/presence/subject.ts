import type { OpenAPIHono } from '@hono/zod-openapi'
import { api, PRESENT_FOR_MS } from '#core/api'
import { described } from '../http/described'
import type { Subject } from '../subject'
import type { Values } from '../values'

const paths = described(api.presence)

/** Those who are at one place are few: more are not read. */
const MOST = 20

/** Who works on what at the moment: told by the workshops themselves, and forgotten by itself. */
export const presence: Subject = {
  name: 'presence',
  tables: [],
  routes: (routes, { ledger, clock }) => presenceRoutes(routes, ledger.values, clock.now),
}

function presenceRoutes(routes: OpenAPIHono, values: Values, now: () => number): void {
  routes.openapi(paths.sayPresent, async (c) => {
    const { place, tab } = c.req.valid('json')
    const { id, name } = c.get('bearer')
    const beginning = `present ${place} `
    await values.keep(beginning + tab, { key: id, name }, now() + PRESENT_FOR_MS)
    const all = (await values.named(beginning)) as { name: string; value: { key: string; name: string } }[]
    const others = all.filter((one) => one.name !== beginning + tab).map(({ value }) => value)
    return c.json({ others: others.slice(0, MOST) }, 200)
  })
}

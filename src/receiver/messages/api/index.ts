import type { OpenAPIHono } from '@hono/zod-openapi'
import { api } from '#core/api'
import { described } from '../../http/described'
import type { Ledger } from '../../ledger'

const paths = described(api.messages)

/** The owner's side of messages: held ones let through, and any erased. They are read in the journal. */
export function messageRoutes(routes: OpenAPIHono, ledger: Ledger): void {
  routes.openapi(paths.releaseMessages, async (c) =>
    c.json({ count: await ledger.messages.release(c.req.valid('json').messages, c.get('bearer').id) }, 200),
  )
  routes.openapi(paths.eraseMessages, async (c) =>
    c.json({ count: await ledger.messages.erase(c.req.valid('json').messages, c.get('bearer').id) }, 200),
  )
}

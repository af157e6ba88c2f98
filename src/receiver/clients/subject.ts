import { api } from '#core/api'
import { described } from '../http/described'
import type { Subject } from '../subject'
import { ClientPages } from './pages'

const paths = described(api.clients)

/** Pages of results and lines for people without a key, such as a client. */
export const clients: Subject = {
  name: 'clients',
  tables: [],
  routes(routes, parts) {
    const pages = new ClientPages(parts)
    routes.openapi(paths.readClientPages, async (c) => c.json({ pages: await pages.list() }, 200))
    routes.openapi(paths.makeClientPage, async (c) => {
      await pages.make({ ...c.req.valid('json'), by: c.get('bearer').id })
      return c.json({ pages: await pages.list() }, 200)
    })
    routes.openapi(paths.withdrawClientPage, async (c) => {
      await pages.withdraw(c.req.valid('param').id)
      return c.json({ pages: await pages.list() }, 200)
    })
  },
  openings: (parts) => new ClientPages(parts).openings(),
  visitors(routes, parts) {
    const pages = new ClientPages(parts)
    routes.get('/client/:token', (c) => pages.show(c))
  },
}

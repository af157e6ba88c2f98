import type { Subject } from '../subject'
import { sitePageRoutes } from './pages'
import { receiverRoutes } from './receiver'

export const owner: Subject = {
  name: 'owner',
  tables: [],
  routes(routes, { ledger, settings, clock, browsers, metrics }) {
    receiverRoutes(routes, { ledger, settings, clock, browsers, metrics })
    sitePageRoutes(routes, settings)
  },
}

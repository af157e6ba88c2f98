import type { Subject } from '../subject'
import { sitePageRoutes } from './pages'
import { receiverRoutes } from './receiver'

export const owner: Subject = {
  name: 'owner',
  tables: [],
  routes(routes, { ledger, settings, clock, browsers }) {
    receiverRoutes(routes, { ledger, settings, clock, browsers })
    sitePageRoutes(routes, settings)
  },
}

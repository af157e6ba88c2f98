import { seenRoutes } from '../public/seen'
import type { Subject } from '../subject'
import { resultRoutes } from './api'
import { resultTables } from './tables'

export const results: Subject = {
  name: 'results',
  tables: [resultTables],
  visitors: (routes, { counting, settings }) => void routes.route('/', seenRoutes(counting, settings)),
  routes: (routes, { ledger }) => resultRoutes(routes, ledger),
}

import type { Subject } from '../subject'
import { resultRoutes } from './api'
import { resultTables } from './tables'

export const results: Subject = {
  name: 'results',
  tables: [resultTables],
  routes: (routes, { ledger }) => resultRoutes(routes, ledger),
}

import type { Subject } from '../subject'
import { pictureRoutes } from './api'
import { objectTables } from './tables'

export const objects: Subject = {
  name: 'objects',
  tables: [objectTables],
  routes: (routes, { ledger }) => pictureRoutes(routes, ledger),
}

import type { Subject } from '../subject'
import { keysApiRoutes } from './api'

export const secrets: Subject = {
  name: 'secrets',
  tables: [],
  routes: (routes, parts, all) => keysApiRoutes(routes, parts, all),
}

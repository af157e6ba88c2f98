import type { Subject } from '../subject'
import { keysApiRoutes } from './api'

export const secrets: Subject = {
  name: 'secrets',
  tables: [],
  routes: (routes, { keys, settings }) => keysApiRoutes(routes, keys, settings),
}

import type { Subject } from '../subject'
import { giftRoutes } from './api'
import { giftTables } from './tables'

export const gifts: Subject = {
  name: 'gifts',
  tables: [giftTables],
  uploads: (routes, { mail }) => giftRoutes(routes, mail.gifts),
}

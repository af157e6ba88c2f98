import type { Subject } from '../subject'
import { uploadRoutes } from './api'
import { giftTables } from './tables'

export const gifts: Subject = {
  name: 'gifts',
  tables: [giftTables],
  uploads: (routes, { ledger, mail }) => uploadRoutes(routes, ledger, mail.gifts),
}

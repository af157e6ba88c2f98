import type { Subject } from '../subject'
import { giftRoutes } from './api'
import { giftTables } from './tables'

const DAY_MS = 86_400_000

export const gifts: Subject = {
  name: 'gifts',
  tables: [giftTables],
  jobs: ({ ledger }) => [
    {
      ...{ name: 'gifts that broke off', everyMs: DAY_MS, longestMs: 10 * 60_000 },
      run: async () => ledger.sharedFiles?.dropUnfinished(),
    },
  ],
  uploads: (routes, { mail }) => giftRoutes(routes, mail.gifts),
}

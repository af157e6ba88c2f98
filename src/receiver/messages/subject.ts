import type { Subject } from '../subject'
import { messageRoutes } from './api'
import { messageTables } from './tables'

const MINUTE_MS = 60_000

export const messages: Subject = {
  name: 'messages',
  tables: [messageTables],
  jobs: ({ ledger }) => [
    {
      name: 'messages kept no longer',
      everyMs: 60 * MINUTE_MS,
      firstAfterMs: 0,
      longestMs: 10 * MINUTE_MS,
      endsTimes: true,
      run: () => ledger.messages.eraseKeptLongEnough(),
    },
  ],
  routes: (routes, { ledger }) => messageRoutes(routes, ledger),
}

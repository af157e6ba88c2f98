import type { Subject } from '../subject'
import { batchRoutes } from './api/batches'
import { BATCHES } from './batches'
import { historyRoutes } from './api/history'
import { batchTables } from './batch-tables'
import { BatchWorker } from './batch-worker'
import { peopleTables } from './tables'

const MINUTE_MS = 60_000

export const people: Subject = {
  name: 'people',
  tables: [peopleTables, batchTables],
  lanes: () => [BATCHES],
  workers: ({ ledger, clock }) => [new BatchWorker(ledger, clock.now)],
  jobs: ({ ledger }) => [
    {
      name: 'who waits too long',
      everyMs: 20_000,
      firstAfterMs: 0,
      longestMs: 10 * MINUTE_MS,
      endsTimes: true,
      run: () => ledger.expireWaiting(),
    },
    {
      name: 'who is kept no longer',
      everyMs: 60 * MINUTE_MS,
      firstAfterMs: 0,
      longestMs: 10 * MINUTE_MS,
      endsTimes: true,
      run: async () => {
        await ledger.eraseKeptLongEnough()
        await ledger.batches.dropForgotten()
      },
    },
  ],
  routes(routes, parts) {
    historyRoutes(routes, parts)
    batchRoutes(routes, parts.ledger)
  },
}

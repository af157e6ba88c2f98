import { backRoutes } from '../public/back'
import type { Subject } from '../subject'
import { handOverApiRoutes } from './api'
import { writeTables } from './files'
import { handOverWorker } from './handing'
import { serviceOpenings } from './back'
import { forgetGone } from './keys'
import { handOverTables } from './tables'
import { forgetSeen, lookAtServices } from './watched'

const MINUTE_MS = 60_000

export const handOver: Subject = {
  name: 'hand-over',
  tables: [handOverTables],
  lanes: ({ ledger }) =>
    ledger
      .published()
      .connections()
      .map(({ id }) => handOverWorker(id)),
  workers: ({ handOver: { workers } }) => [workers],
  jobs: ({ ledger, handOver, clock }) => [
    {
      name: 'tables',
      everyMs: MINUTE_MS,
      longestMs: 10 * MINUTE_MS,
      endsTimes: true,
      run: () => writeTables(ledger, handOver.folder, clock.now),
    },
    {
      name: 'services that changed',
      everyMs: 60 * MINUTE_MS,
      firstAfterMs: MINUTE_MS,
      longestMs: 10 * MINUTE_MS,
      endsTimes: true,
      run: () => lookAtServices(ledger, handOver),
    },
    {
      name: 'connections that are gone',
      everyMs: 60 * MINUTE_MS,
      longestMs: MINUTE_MS,
      run: async () => {
        await ledger.handOvers.forgetGone()
        await forgetSeen(ledger)
        await forgetGone(ledger, handOver.keys, clock.sureNow)
      },
    },
  ],
  openings: ({ ledger }) => serviceOpenings(ledger),
  visitors: (routes, { ledger, settings, handOver }) => void routes.route('/', backRoutes(ledger, settings, handOver)),
  routes: (routes, { ledger, settings, handOver }) => handOverApiRoutes(routes, ledger, settings, handOver),
}

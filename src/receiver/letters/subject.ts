import type { Subject } from '../subject'
import { letterRoutes } from './api'
import { Feeds } from './feeds'
import { letterPages } from './public'
import { letterTables } from './tables'
import { allowedOrigins } from './tried-links'
import { LetterWorker } from './worker'

/** What its owner writes to the people of lists: now or at a time, from a feed, or by days since joining. */
export const letters: Subject = {
  name: 'letters',
  tables: [letterTables],
  workers: ({ ledger }) => [new LetterWorker(ledger)],
  jobs: ({ ledger, settings, clock }) => [new Feeds(ledger, clock.sureNow, allowedOrigins(settings)).job()],
  routes(routes, { ledger, settings, rehearsals, mail, clock }) {
    const feeds = new Feeds(ledger, clock.sureNow, allowedOrigins(settings))
    letterRoutes(routes, { ledger, settings, rehearsals, mail, feeds, now: clock.now })
  },
  visitors(routes, { ledger, settings, rehearsals }) {
    routes.route('/', letterPages(ledger, settings, rehearsals))
  },
}

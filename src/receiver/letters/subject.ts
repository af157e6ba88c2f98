import { openReading } from '../reading'
import type { ReceiverParts, Subject } from '../subject'
import { letterRoutes } from './api'
import { Feeds } from './feeds'
import { FEED_MS, feedReadings } from './read-feed'
import { letterPages } from './public'
import { letterTables } from './tables'
import { allowedOrigins } from './tried-links'
import { LetterWorker } from './worker'

const feedsOf = ({ ledger, settings, clock, program }: ReceiverParts) =>
  new Feeds(ledger, clock.sureNow, {
    allowed: allowedOrigins(settings),
    reading: openReading(program('feed-thread.js'), feedReadings, FEED_MS),
  })

/** What its owner writes to the people of lists: now or at a time, from a feed, or by days since joining. */
export const letters: Subject = {
  name: 'letters',
  tables: [letterTables],
  workers: ({ ledger }) => [new LetterWorker(ledger)],
  jobs: (parts) => [feedsOf(parts).job()],
  routes(routes, parts) {
    const { ledger, settings, rehearsals, mail, clock } = parts
    const feeds = feedsOf(parts)
    letterRoutes(routes, { ledger, settings, rehearsals, mail, feeds, now: clock.now })
  },
  visitors(routes, { ledger, settings, rehearsals }) {
    routes.route('/', letterPages(ledger, settings, rehearsals))
  },
}

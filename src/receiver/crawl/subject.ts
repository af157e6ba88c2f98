import type { Ledger } from '../ledger'
import type { ReceiverParts, Subject } from '../subject'
import { crawlRoutes } from './api'
import { Crawls } from './crawls'
import { stillPages } from './stills'

const all = new WeakMap<Ledger, Crawls>()

/** One for all that asks: what goes on is told to each. */
function crawlsOf({ ledger, settings, clock, program }: ReceiverParts): Crawls {
  const known = all.get(ledger)
  if (known !== undefined) return known
  const made = new Crawls({ ledger, settings, now: clock.now, thread: program('site-thread.js') })
  all.set(ledger, made)
  return made
}

/** Sites looked through, and their pages looked at. */
export const crawls: Subject = {
  name: 'crawl',
  // What was seen is a value.
  tables: [],
  jobs: (parts) => [crawlsOf(parts).job()],
  routes(routes, parts) {
    const { ledger, settings, clock } = parts
    crawlRoutes(routes, { ledger, settings, crawls: crawlsOf(parts), now: clock.now })
  },
  visitors(routes, { ledger, settings, clock, program }) {
    routes.route('/', stillPages(ledger, settings, { now: clock.now, thread: program('site-thread.js') }))
  },
}

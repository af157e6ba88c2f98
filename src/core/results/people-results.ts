import type { ListId, SpotId } from '#core/ids'
import type { GrowthRow, PeopleResults } from './people'
import { weekdayOf } from './time'

/** How long confirming took, of how many. */
export interface Delays {
  count: number
  buckets: { label: string; count: number }[]
}

/** What is drawn beside the sums of sign-ups. */
export interface ComingsAndGoings {
  growth: GrowthRow[]
  /** Sign-ups by weekday, from Monday, and hour. */
  hours: number[][]
  delays: Delays
}

/** Which days, both included, and which spots and lists; null for all. */
export interface LookedAt {
  from: string
  to: string
  spots: readonly SpotId[] | null
  lists: readonly ListId[] | null
}

const MINUTE_MS = 60_000
const HOUR_MS = 60 * MINUTE_MS
/** Up to so long each; the last takes in all that are longer. */
const BUCKETS: readonly (readonly [string, number])[] = [
  ['up to 5 minutes', 5 * MINUTE_MS],
  ['up to an hour', HOUR_MS],
  ['up to 6 hours', 6 * HOUR_MS],
  ['up to a day', 24 * HOUR_MS],
  ['up to 3 days', 72 * HOUR_MS],
  ['longer', Infinity],
]

/** Growth, hours and delays of what is looked at. */
export function comingsAndGoings(people: PeopleResults, { from, to, spots, lists }: LookedAt): ComingsAndGoings {
  const isWithin = ({ day }: { day: string }) => day >= from && day <= to
  const ownSpots = spots && new Set(spots)
  const ownLists = lists && new Set(lists)
  const isOwn = ({ spot }: { spot: SpotId }) => ownSpots === null || ownSpots.has(spot)
  const hours = Array.from({ length: 7 }, () => Array.from({ length: 24 }, () => 0))
  for (const row of people.hours) if (isWithin(row) && isOwn(row)) hours[weekdayOf(row.day)]![row.hour]! += row.signUps
  const counts = BUCKETS.map(() => 0)
  let count = 0
  for (const row of people.delays)
    if (isWithin(row) && isOwn(row)) {
      counts[BUCKETS.findIndex(([, most]) => row.ms <= most)]! += 1
      count += 1
    }
  return {
    growth: people.growth.filter((row) => isWithin(row) && (ownLists === null || ownLists.has(row.list))),
    hours,
    delays: { count, buckets: BUCKETS.map(([label], at) => ({ label, count: counts[at]! })) },
  }
}

import type { ListId } from '#core/ids'
import { PeopleCounter } from '#core/results'
import { entriesFrom, newestEntry } from '../data'

/** How many came onto a list on a day, and how many went. */
export interface GrowthDay {
  /** ISO 8601. */
  day: string
  joined: number
  gone: number
}
/** As results count them: by the clocks of this computer. */
const ZONE = Intl.DateTimeFormat().resolvedOptions().timeZone
let counter: PeopleCounter | null = null
/** Number of the newest entry that is counted. */
let cursor = 0
let counting: Promise<unknown> = Promise.resolve()

/**
 * By day, those on which anybody came or went. The journal is read for it, since what somebody was in between is nowhere
 * else: once, then only what came since.
 */
export function growthOf(list: ListId): Promise<GrowthDay[]> {
  const next = counting.then(() => count(list))
  counting = next.catch(() => {})
  return next
}

async function count(list: ListId): Promise<GrowthDay[]> {
  // Emptied, or another workspace.
  if (counter === null || cursor > (await newestEntry())) [counter, cursor] = [new PeopleCounter(() => ZONE, ZONE), 0]
  for await (const entries of entriesFrom(cursor + 1))
    for (const entry of entries) {
      cursor = entry.n
      counter.add(entry)
    }
  return counter
    .results()
    .growth.filter((row) => row.list === list)
    .map(({ day, came, left }) => ({ day, joined: came, gone: left }))
    .sort((one, other) => (one.day < other.day ? -1 : 1))
}

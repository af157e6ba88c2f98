import type { ListId, MemberId } from '#core/ids'
import type { Entry } from '#core/journal'
import { affectedMembers } from '#core/list'
import { entriesFrom, newestEntry } from '../data'

/** How many came onto a list on a day, and how many went. */
export interface GrowthDay {
  /** ISO 8601. */
  day: string
  joined: number
  gone: number
}
/** What was counted of a list so far. */
interface Counted {
  /** Number of the newest entry in it. */
  cursor: number
  days: Map<string, GrowthDay>
  /** Who is on the list. */
  on: Set<MemberId>
}
const counted = new Map<ListId, Counted>()
let counting: Promise<unknown> = Promise.resolve()

/**
 * By day (UTC), those on which anybody came or went. The journal is read for it, since what somebody was in between is
 * nowhere else: once, then only what came since.
 */
export function growthOf(list: ListId): Promise<GrowthDay[]> {
  const next = counting.then(() => count(list))
  counting = next.catch(() => {})
  return next
}

async function count(list: ListId): Promise<GrowthDay[]> {
  let so = counted.get(list)
  // Emptied, or another workspace.
  if (so === undefined || so.cursor > (await newestEntry())) so = { cursor: 0, days: new Map(), on: new Set() }
  counted.set(list, so)
  const { days, on } = so
  for await (const entries of entriesFrom(so.cursor + 1))
    for (const entry of entries) {
      so.cursor = entry.n
      if (entry.list !== list && entry.kind !== 'members-erased') continue
      for (const id of affectedMembers(entry)) {
        const isOn = isOnAfter(entry, on.has(id))
        if (isOn === on.has(id)) continue
        if (isOn) on.add(id)
        else on.delete(id)
        const day = (entry.kind === 'member-written' ? entry.joinedAt : entry.at).slice(0, 10)
        const sums = days.get(day) ?? { day, joined: 0, gone: 0 }
        sums[isOn ? 'joined' : 'gone'] += 1
        days.set(day, sums)
      }
    }
  return [...days.values()].sort((one, other) => (one.day < other.day ? -1 : 1))
}

/** Whether somebody is on the list after an entry that changes them. */
function isOnAfter(entry: Entry, before: boolean): boolean {
  switch (entry.kind) {
    case 'arrival':
      return entry.verdict === 'joined'
    case 'member-written':
    case 'member-restored':
      return entry.status === 'confirmed'
    case 'member-added':
    case 'member-confirmed':
    case 'member-returned':
      return true
    case 'member-edited':
    case 'member-noted':
      return before
    case 'members-changed': {
      const change = entry.personal?.change
      if (change?.kind === 'restore') return change.status === 'confirmed'
      return change?.kind === 'remove' || change?.kind === 'withdraw' ? false : before
    }
    default:
      return false
  }
}

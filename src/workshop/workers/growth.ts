import type { ListId, MemberId } from '#core/ids'
import type { Entry } from '#core/journal'
import { affectedMembers } from '#core/list'
import { entriesFrom } from '../data'

/** How many came onto a list on a day, and how many went. */
export interface GrowthDay {
  /** ISO 8601. */
  day: string
  joined: number
  gone: number
}
/** By day (UTC), those on which anybody came or went. The journal is read for it: what somebody was in between is nowhere else. */
export async function growthOf(list: ListId): Promise<GrowthDay[]> {
  const days = new Map<string, GrowthDay>()
  const statuses = new Map<MemberId, boolean>()
  for await (const entries of entriesFrom(1))
    for (const entry of entries) {
      if (entry.list !== list && entry.kind !== 'members-erased') continue
      for (const id of affectedMembers(entry)) {
        const isOn = isOnAfter(entry, statuses.get(id) ?? false)
        if (isOn === (statuses.get(id) ?? false)) continue
        statuses.set(id, isOn)
        const day = (entry.kind === 'member-written' ? entry.joinedAt : entry.at).slice(0, 10)
        const counted = days.get(day) ?? { day, joined: 0, gone: 0 }
        counted[isOn ? 'joined' : 'gone'] += 1
        days.set(day, counted)
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

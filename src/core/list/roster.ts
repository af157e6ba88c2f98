import type { FormId, ListId, MemberId } from '#core/ids'
import { type Entry, entryKinds } from '#core/journal'
import { affectedMember, applyToMember } from './fold'
import { type Member, type MemberStatus, memberStatuses } from './member'

/** Somebody, with everything that can be searched as one text, and the numbers of all entries about them. */
interface Known {
  member: Member
  text: string
  entries: number[]
}

interface OfList {
  byId: Map<MemberId, Known>
  byAddress: Map<string, MemberId>
  order: Known[]
  isInOrder: boolean
  counts: Record<MemberStatus, number>
}

export interface Wanted {
  list: ListId
  /** Came through this form. */
  form?: FormId
  status?: MemberStatus
  /** Words to find in address, values or tags; in any letter case. */
  search?: string
  isOldestFirst?: boolean
  /** No more than so many. */
  limit?: number
}

/**
 * Everybody, by list, in the order in which they joined: the journal folded. Held in memory, so that finding somebody
 * among a hundred thousand reads nothing.
 */
export class Roster {
  /** Number of the newest entry in it. */
  cursor = 0
  private readonly lists = new Map<ListId, OfList>()

  /** Takes in entries in their order. Those that are in it already, and those of kinds not known here, are passed over. */
  take(entries: readonly Entry[]): void {
    for (const entry of entries) {
      if (entry.n <= this.cursor) continue
      this.cursor = entry.n
      if (entryKinds.includes(entry.kind)) this.fold(entry)
    }
  }

  private fold(entry: Entry): void {
    if (entry.member === null) return
    const list = this.listOf(entry.list)
    const known = list.byId.get(entry.member)
    known?.entries.push(entry.n)
    if (affectedMember(entry) === null) return
    const before = known?.member ?? null
    const member = applyToMember(before, entry)
    if (member === null) return
    list.counts[member.status] += 1
    if (known === undefined) {
      const made = { member, text: searchable(member), entries: [entry.n] }
      list.byId.set(member.id, made)
      const last = list.order.at(-1)
      if (last !== undefined && compare(last, made) > 0) list.isInOrder = false
      list.order.push(made)
    } else {
      list.counts[known.member.status] -= 1
      if (known.member.email.compared !== member.email.compared) list.byAddress.delete(known.member.email.compared)
      // Somebody who joins again moves to the newest end.
      if (known.member.joinedAt !== member.joinedAt) list.isInOrder = false
      known.member = member
      known.text = searchable(member)
    }
    list.byAddress.set(member.email.compared, member.id)
  }

  get(list: ListId, id: MemberId): Member | null {
    return this.lists.get(list)?.byId.get(id)?.member ?? null
  }

  withAddress(list: ListId, compared: string): Member | null {
    const id = this.lists.get(list)?.byAddress.get(compared)
    return id === undefined ? null : this.get(list, id)
  }

  /**
   * Those who are wanted, newest first unless said otherwise.
   *
   * @param instead what somebody is to be taken for, where a change is still on its way
   */
  find(
    { list, form, status, search = '', isOldestFirst = false, limit = Infinity }: Wanted,
    instead: ReadonlyMap<MemberId, Member> = new Map(),
  ): Member[] {
    const kept = this.lists.get(list)
    if (kept === undefined) return []
    if (!kept.isInOrder) {
      kept.order.sort(compare)
      kept.isInOrder = true
    }
    const words = search.trim().toLowerCase()
    const found: Member[] = []
    const { order } = kept
    for (let at = 0; at < order.length && found.length < limit; at += 1) {
      const known = order[isOldestFirst ? at : order.length - 1 - at]!
      const other = instead.size === 0 ? undefined : instead.get(known.member.id)
      const member = other ?? known.member
      if (status !== undefined && member.status !== status) continue
      if (form !== undefined && member.from?.form !== form) continue
      if (words !== '' && !(other === undefined ? known.text : searchable(other)).includes(words)) continue
      found.push(member)
    }
    return found
  }

  /** How many of a list have each status. */
  counts(list: ListId): Record<MemberStatus, number> {
    return { ...(this.lists.get(list)?.counts ?? noCounts()) }
  }

  /** Numbers of all entries about somebody, oldest first. */
  entriesAbout(list: ListId, id: MemberId): readonly number[] {
    return this.lists.get(list)?.byId.get(id)?.entries ?? []
  }

  clear(): void {
    this.cursor = 0
    this.lists.clear()
  }

  private listOf(id: ListId): OfList {
    const known = this.lists.get(id)
    if (known !== undefined) return known
    const made: OfList = { byId: new Map(), byAddress: new Map(), order: [], isInOrder: true, counts: noCounts() }
    this.lists.set(id, made)
    return made
  }
}

function noCounts(): Record<MemberStatus, number> {
  return Object.fromEntries(memberStatuses.map((status) => [status, 0])) as Record<MemberStatus, number>
}

function searchable({ email, values, tags = [] }: Member): string {
  return [email.typed, email.compared, ...Object.values(values), ...tags].join('\n').toLowerCase()
}

function compare({ member: one }: Known, { member: other }: Known): number {
  if (one.joinedAt !== other.joinedAt) return one.joinedAt < other.joinedAt ? -1 : 1
  return one.id < other.id ? -1 : one.id > other.id ? 1 : 0
}

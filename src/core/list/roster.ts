import type { FormId, ListId, MemberId } from '#core/ids'
import type { Member, MemberStatus } from './member'

/** Somebody, with everything that can be searched as one text. */
interface Known {
  member: Member
  text: string
}

export interface Wanted {
  list: ListId
  /** Came through this form. */
  form?: FormId
  status?: MemberStatus
  /** Words to find in address, values or tags; in any letter case. */
  search?: string
  isOldestFirst?: boolean
}

/**
 * Everybody, by list, in the order in which they joined. Held in memory, so that finding somebody among a hundred
 * thousand reads nothing. `newest` is the highest revision in it: what changed since is all that has to be taken in.
 */
export class Roster {
  newest = 0
  private readonly lists = new Map<
    ListId,
    { byId: Map<MemberId, Known>; byAddress: Map<string, MemberId>; order: Known[]; isInOrder: boolean }
  >()

  take(members: readonly Member[]): void {
    for (const member of members) {
      const list = this.listOf(member.list)
      const before = list.byId.get(member.id)
      if (before !== undefined && before.member.revision > member.revision) continue
      this.newest = Math.max(this.newest, member.revision)
      if (before !== undefined) {
        if (before.member.email.compared !== member.email.compared) list.byAddress.delete(before.member.email.compared)
        // Somebody who joins again moves to the newest end.
        if (before.member.joinedAt !== member.joinedAt) list.isInOrder = false
        before.member = member
        before.text = searchable(member)
      } else {
        const known = { member, text: searchable(member) }
        list.byId.set(member.id, known)
        const last = list.order.at(-1)
        if (last !== undefined && compare(last, known) > 0) list.isInOrder = false
        list.order.push(known)
      }
      list.byAddress.set(member.email.compared, member.id)
    }
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
    { list, form, status, search = '', isOldestFirst = false }: Wanted,
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
    for (const known of kept.order) {
      const other = instead.size === 0 ? undefined : instead.get(known.member.id)
      const member = other ?? known.member
      if (status !== undefined && member.status !== status) continue
      if (form !== undefined && member.from?.form !== form) continue
      if (words !== '' && !(other === undefined ? known.text : searchable(other)).includes(words)) continue
      found.push(member)
    }
    return isOldestFirst ? found : found.reverse()
  }

  clear(): void {
    this.newest = 0
    this.lists.clear()
  }

  private listOf(id: ListId) {
    const known = this.lists.get(id)
    if (known !== undefined) return known
    const made = {
      byId: new Map<MemberId, Known>(),
      byAddress: new Map<string, MemberId>(),
      order: [] as Known[],
      isInOrder: true,
    }
    this.lists.set(id, made)
    return made
  }
}

function searchable({ email, values, tags = [] }: Member): string {
  return [email.typed, email.compared, ...Object.values(values), ...tags].join('\n').toLowerCase()
}

function compare({ member: one }: Known, { member: other }: Known): number {
  if (one.joinedAt !== other.joinedAt) return one.joinedAt < other.joinedAt ? -1 : 1
  return one.id < other.id ? -1 : one.id > other.id ? 1 : 0
}

import type { FormId, ListId, MemberId } from '#core/ids'
import { type Entry, entryKinds } from '#core/journal'
import { affectedMember, applyToMember } from './fold'
import { type Member, type MemberStatus, memberStatuses } from './member'
import { Pool } from './pool'

export interface Wanted {
  list: ListId
  /** Came through this form. */
  form?: FormId
  status?: MemberStatus
  /** Words to find in address, values, tags, page or mark; in any letter case. */
  search?: string
  /** Spots whose people are found, too: those that have the searched words in their names. */
  spots?: readonly string[]
  isOldestFirst?: boolean
  /** So many of the first are passed over. */
  offset?: number
  /** No more than so many. */
  limit?: number
}

/** Some of those who are wanted, and how many there are in all. */
export interface Found {
  members: Member[]
  total: number
}

/**
 * Everybody, by list, in the order in which they joined: the journal folded. Held in memory, so that finding somebody
 * among a million reads nothing: each person is a row of numbers and two texts, and what many people have in common
 * (where they came from, what they answered) is held once.
 */
export class Roster {
  /** Number of the newest entry in it. */
  cursor = 0
  private readonly lists = new Map<ListId, ListRoster>()

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
    const people = this.peopleOf(entry.list)
    const row = people.rowOf(entry.member)
    if (row !== undefined) people.noteEntry(row, entry.n)
    if (affectedMember(entry) === null) return
    const member = applyToMember(row === undefined ? null : people.member(row), entry)
    if (member !== null) people.keep(member, row, entry.n)
  }

  get(list: ListId, id: MemberId): Member | null {
    const people = this.lists.get(list)
    const row = people?.rowOf(id)
    return people === undefined || row === undefined ? null : people.member(row)
  }

  withAddress(list: ListId, compared: string): Member | null {
    const people = this.lists.get(list)
    const row = people?.rowWithAddress(compared)
    return people === undefined || row === undefined ? null : people.member(row)
  }

  /** Everybody with an address, on whatever lists. */
  everywhere(compared: string): Member[] {
    return [...this.lists.keys()].flatMap((list) => this.withAddress(list, compared) ?? [])
  }

  /**
   * Those who are wanted, newest first unless said otherwise.
   *
   * @param instead what somebody is to be taken for, where a change is still on its way
   */
  find(wanted: Wanted, instead: ReadonlyMap<MemberId, Member> = new Map()): Found {
    return this.lists.get(wanted.list)?.find(wanted, instead) ?? { members: [], total: 0 }
  }

  /** How many of a list have each status. */
  counts(list: ListId): Record<MemberStatus, number> {
    return { ...(this.lists.get(list)?.counts ?? noCounts()) }
  }

  /** The same of every list that anybody was ever on. */
  allCounts(): Record<ListId, Record<MemberStatus, number>> {
    return Object.fromEntries([...this.lists].map(([id, { counts }]) => [id, { ...counts }]))
  }

  /** Numbers of all entries about somebody, oldest first. */
  entriesAbout(list: ListId, id: MemberId): readonly number[] {
    const people = this.lists.get(list)
    const row = people?.rowOf(id)
    return people === undefined || row === undefined ? [] : people.entries(row)
  }

  clear(): void {
    this.cursor = 0
    this.lists.clear()
  }

  private peopleOf(id: ListId): ListRoster {
    const existing = this.lists.get(id)
    if (existing !== undefined) return existing
    const made = new ListRoster(id)
    this.lists.set(id, made)
    return made
  }
}

/** What of a member many people share. */
type Answers = Pick<Member, 'values' | 'tags'>

/** Everybody on one list, in rows: the arrays have the same length, and a person the same place in each. */
class ListRoster {
  readonly counts = noCounts()
  private readonly rows = new Map<MemberId, number>()
  private readonly addresses = new Map<string, number>()
  private readonly ids: MemberId[] = []
  private readonly typed: string[] = []
  private readonly compared: string[] = []
  private readonly answers: number[] = []
  private readonly from: number[] = []
  private readonly statuses: number[] = []
  /** Milliseconds since 1970. */
  private readonly joined: number[] = []
  private readonly revisions: number[] = []
  private readonly firstEntries: number[] = []
  /** Of those about whom there is more than one. */
  private readonly moreEntries = new Map<number, number[]>()
  /** Times that are not spelled as `toISOString` spells them. */
  private readonly otherSpelling = new Map<number, string>()
  private readonly answerPool = new Pool<Answers>(({ values, tags = [] }) =>
    [...Object.values(values), ...tags].join('\n').toLowerCase(),
  )
  private readonly fromPool = new Pool<Member['from']>()
  /** Rows, the longest on the list first. */
  private order: number[] = []
  private isInOrder = true

  constructor(private readonly list: ListId) {}

  rowOf(id: MemberId): number | undefined {
    return this.rows.get(id)
  }

  rowWithAddress(compared: string): number | undefined {
    return this.addresses.get(compared)
  }

  noteEntry(row: number, n: number): void {
    const more = this.moreEntries.get(row)
    if (more === undefined) this.moreEntries.set(row, [n])
    else more.push(n)
  }

  entries(row: number): number[] {
    return [this.firstEntries[row]!, ...(this.moreEntries.get(row) ?? [])]
  }

  member(row: number): Member {
    const { values, tags } = this.answerPool.get(this.answers[row]!)
    return {
      id: this.ids[row]!,
      list: this.list,
      email: { typed: this.typed[row]!, compared: this.compared[row]! },
      values,
      ...(tags !== undefined && { tags }),
      status: memberStatuses[this.statuses[row]!]!,
      joinedAt: this.otherSpelling.get(row) ?? new Date(this.joined[row]!).toISOString(),
      from: this.fromPool.get(this.from[row]!),
      revision: this.revisions[row]!,
    }
  }

  /** @param known the row of somebody who is here already */
  keep({ id, email, values, tags, status, joinedAt, from, revision }: Member, known: number | undefined, n: number) {
    const row = known ?? this.ids.length
    const joined = Date.parse(joinedAt)
    if (known === undefined) {
      this.rows.set(id, row)
      this.ids.push(id)
      this.firstEntries.push(n)
      if (this.order.length > 0 && this.compare(this.order.at(-1)!, row, joined) > 0) this.isInOrder = false
      this.order.push(row)
    } else {
      this.counts[memberStatuses[this.statuses[row]!]!] -= 1
      if (this.compared[row] !== email.compared) this.addresses.delete(this.compared[row]!)
      // Somebody who joins again moves to the newest end.
      if (this.joined[row] !== joined) this.isInOrder = false
    }
    this.counts[status] += 1
    this.compared[row] = email.compared
    // One text where both are the same.
    this.typed[row] = email.typed === email.compared ? email.compared : email.typed
    this.addresses.set(email.compared, row)
    this.answers[row] = this.answerPool.add({ values, ...(tags !== undefined && { tags }) })
    this.from[row] = this.fromPool.add(from)
    this.statuses[row] = memberStatuses.indexOf(status)
    this.joined[row] = joined
    this.revisions[row] = revision
    if (new Date(joined).toISOString() === joinedAt) this.otherSpelling.delete(row)
    else this.otherSpelling.set(row, joinedAt)
  }

  find(
    { form, status, search = '', spots = [], isOldestFirst = false, offset = 0, limit = Infinity }: Wanted,
    instead: ReadonlyMap<MemberId, Member>,
  ): Found {
    if (!this.isInOrder) {
      this.order.sort((one, other) => this.compare(one, other, this.joined[other]!))
      this.isInOrder = true
    }
    const words = search.trim().toLowerCase()
    const wantedStatus = status === undefined ? -1 : memberStatuses.indexOf(status)
    // Decided once for what many share.
    const forms = form === undefined ? null : this.fromPool.which((from) => from?.form === form)
    const answers = words === '' ? null : this.answerPool.whichText((text) => text.includes(words))
    const wantedSpots = new Set<string>(spots)
    const places =
      words === ''
        ? null
        : this.fromPool.which(
            (from) => from !== null && (wantedSpots.has(from.spot) || placeWords(from).includes(words)),
          )
    const others = new Map([...instead].map(([id, member]) => [this.rows.get(id), member]))
    const { order } = this
    // Nothing to look for: what is asked for is where it stands.
    const isAll = wantedStatus < 0 && forms === null && answers === null
    const members: Member[] = []
    let total = 0
    for (let at = isAll ? Math.min(offset, order.length) : 0; at < order.length; at += 1) {
      if (isAll && members.length >= limit) break
      const row = order[isOldestFirst ? at : order.length - 1 - at]!
      const other = others.size === 0 ? undefined : others.get(row)
      if (other === undefined) {
        if (wantedStatus >= 0 && this.statuses[row] !== wantedStatus) continue
        if (forms !== null && forms[this.from[row]!] === 0) continue
        if (
          answers !== null &&
          answers[this.answers[row]!] === 0 &&
          places![this.from[row]!] === 0 &&
          !this.hasInAddress(row, words)
        )
          continue
      } else {
        if (status !== undefined && other.status !== status) continue
        if (form !== undefined && other.from?.form !== form) continue
        if (words !== '' && !searchable(other).includes(words) && !wantedSpots.has(other.from?.spot ?? '')) continue
      }
      total += 1
      if ((isAll || total > offset) && members.length < limit) members.push(other ?? this.member(row))
    }
    return { members, total: isAll ? order.length : total }
  }

  private hasInAddress(row: number, words: string): boolean {
    const compared = this.compared[row]!
    if (compared.includes(words)) return true
    const typed = this.typed[row]!
    return typed !== compared && typed.toLowerCase().includes(words)
  }

  /** @param joined of the other, who may not be kept yet */
  private compare(one: number, other: number, joined: number): number {
    if (this.joined[one] !== joined) return this.joined[one]! < joined ? -1 : 1
    const [a, b] = [this.ids[one]!, this.ids[other]!]
    return a < b ? -1 : a > b ? 1 : 0
  }
}

/** What tells where somebody came from: the page, the spot's mark, the campaign. */
function placeWords({ page, cameFrom }: NonNullable<Member['from']>): string {
  return [page, cameFrom?.source, cameFrom?.campaign].filter(Boolean).join('\n').toLowerCase()
}

function noCounts(): Record<MemberStatus, number> {
  return Object.fromEntries(memberStatuses.map((status) => [status, 0])) as Record<MemberStatus, number>
}

function searchable({ email, values, tags = [], from }: Member): string {
  const all = [email.typed, email.compared, ...Object.values(values), ...tags, from === null ? '' : placeWords(from)]
  return all.join('\n').toLowerCase()
}

import type { ListId, MemberId } from '#core/ids'
import { matches, questionOf } from './filter'
import { type Member, memberStatuses, noCounts, valueOf } from './member'
import { Pool } from './pool'
import type { Found, Sort, Wanted } from './wanted'

/** What of a member many people share. */
type Answers = Pick<Member, 'values' | 'tags'>
type Origin = Pick<Member, 'from' | 'batch'>
type RowTest = (row: number) => boolean

const NEWEST_FIRST: Sort = { by: 'since', isDescending: true }

/** Everybody on one list, in rows: the arrays have the same length, and a person the same place in each. */
export class ListRoster {
  readonly counts = noCounts()
  private readonly rows = new Map<MemberId, number>()
  private readonly addresses = new Map<string, number>()
  private readonly ids: MemberId[] = []
  private readonly typed: string[] = []
  private readonly compared: string[] = []
  private readonly answers: number[] = []
  private readonly origins: number[] = []
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
  private readonly originPool = new Pool<Origin>()
  /** Rows, the longest on the list first. */
  private order: number[] = []
  private isInOrder = true
  /** Whether rows of people who are not here any more stand in `order`. */
  private hasGaps = false
  /** Rows by what they were sorted by last, until somebody changes. */
  private sorted: { by: string; order: number[] } | null = null

  constructor(private readonly list: ListId) {}

  get(id: MemberId): Member | null {
    const row = this.rows.get(id)
    return row === undefined ? null : this.member(row)
  }

  withAddress(compared: string): Member | null {
    const row = this.addresses.get(compared)
    return row === undefined ? null : this.member(row)
  }

  /** Keeps in mind that an entry is about somebody; of somebody new, `keep` does. */
  noteEntry(id: MemberId, n: number): void {
    const row = this.rows.get(id)
    if (row === undefined) return
    const more = this.moreEntries.get(row)
    if (more === undefined) this.moreEntries.set(row, [n])
    else more.push(n)
  }

  entries(id: MemberId): number[] {
    const row = this.rows.get(id)
    return row === undefined ? [] : [this.firstEntries[row]!, ...(this.moreEntries.get(row) ?? [])]
  }

  tagCounts(): { tag: string; count: number }[] {
    const shared = new Map<number, number>()
    for (const row of this.rows.values()) shared.set(this.answers[row]!, (shared.get(this.answers[row]!) ?? 0) + 1)
    const counts = new Map<string, number>()
    for (const [number, count] of shared)
      for (const tag of this.answerPool.get(number).tags ?? []) counts.set(tag, (counts.get(tag) ?? 0) + count)
    return [...counts]
      .map(([tag, count]) => ({ tag, count }))
      .sort((one, other) => other.count - one.count || (one.tag < other.tag ? -1 : 1))
  }

  private member(row: number): Member {
    const { values, tags } = this.answerPool.get(this.answers[row]!)
    const { from, batch } = this.originPool.get(this.origins[row]!)
    return {
      id: this.ids[row]!,
      list: this.list,
      email: { typed: this.typed[row]!, compared: this.compared[row]! },
      values,
      ...(tags !== undefined && { tags }),
      status: memberStatuses[this.statuses[row]!]!,
      joinedAt: this.otherSpelling.get(row) ?? new Date(this.joined[row]!).toISOString(),
      from,
      ...(batch !== undefined && { batch }),
      revision: this.revisions[row]!,
    }
  }

  /** Keeps somebody as they are after entry `n`. */
  keep({ id, email, values, tags, status, joinedAt, from, batch, revision }: Member, n: number): void {
    const known = this.rows.get(id)
    const row = known ?? this.ids.length
    const joined = Date.parse(joinedAt)
    this.sorted = null
    if (known === undefined) {
      this.rows.set(id, row)
      this.ids.push(id)
      this.firstEntries.push(n)
      const last = this.order.at(-1)
      if (last !== undefined && this.compare(last, row, joined, email.compared) > 0) this.isInOrder = false
      this.order.push(row)
    } else {
      this.counts[memberStatuses[this.statuses[row]!]!] -= 1
      if (this.compared[row] !== email.compared) this.addresses.delete(this.compared[row]!)
      // Somebody who joins again moves to the newest end.
      if (this.joined[row] !== joined || this.compared[row] !== email.compared) this.isInOrder = false
    }
    this.counts[status] += 1
    this.compared[row] = email.compared
    // One text where both are the same.
    this.typed[row] = email.typed === email.compared ? email.compared : email.typed
    this.addresses.set(email.compared, row)
    this.answers[row] = this.answerPool.add({ values, ...(tags !== undefined && { tags }) })
    this.origins[row] = this.originPool.add({ from, ...(batch !== undefined && { batch }) })
    this.statuses[row] = memberStatuses.indexOf(status)
    this.joined[row] = joined
    this.revisions[row] = revision
    if (new Date(joined).toISOString() === joinedAt) this.otherSpelling.delete(row)
    else this.otherSpelling.set(row, joinedAt)
  }

  /** Forgets somebody. The row stays empty. */
  drop(id: MemberId): void {
    const row = this.rows.get(id)
    if (row === undefined) return
    this.counts[memberStatuses[this.statuses[row]!]!] -= 1
    this.rows.delete(id)
    if (this.addresses.get(this.compared[row]!) === row) this.addresses.delete(this.compared[row]!)
    this.compared[row] = ''
    this.typed[row] = ''
    this.answers[row] = this.answerPool.add({ values: {} })
    this.moreEntries.delete(row)
    this.hasGaps = true
    this.sorted = null
  }

  find(wanted: Wanted, now: number, instead: ReadonlyMap<MemberId, Member>): Found {
    const { sort = NEWEST_FIRST, offset = 0, limit = Infinity } = wanted
    const order = this.orderBy(sort)
    const tests = this.testsFor(wanted, now)
    const others = new Map([...instead].map(([id, member]) => [this.rows.get(id), member]))
    // Nothing to look for: what is asked for is where it stands.
    const isAll = tests.length === 0
    const members: Member[] = []
    let total = 0
    for (let at = isAll ? Math.min(offset, order.length) : 0; at < order.length; at += 1) {
      if (isAll && members.length >= limit) break
      const row = order[sort.isDescending ? order.length - 1 - at : at]!
      const other = others.size === 0 ? undefined : others.get(row)
      if (other === undefined ? !tests.every((holds) => holds(row)) : !isWanted(other, wanted, now)) continue
      total += 1
      if ((isAll || total > offset) && members.length < limit) members.push(other ?? this.member(row))
    }
    return { members, total: isAll ? order.length : total }
  }

  /** All who are wanted, in the order of `find`, by what a change names them with. */
  select(wanted: Wanted, now: number): { id: MemberId; revision: number }[] {
    const { sort = NEWEST_FIRST } = wanted
    const tests = this.testsFor(wanted, now)
    const rows = this.orderBy(sort).filter((row) => tests.every((holds) => holds(row)))
    if (sort.isDescending) rows.reverse()
    return rows.map((row) => ({ id: this.ids[row]!, revision: this.revisions[row]! }))
  }

  /** What a row has to pass, all of it. What many rows share is looked at once. */
  private testsFor({ form, status, search = '', spots = [], filter, only, except }: Wanted, now: number): RowTest[] {
    const tests: RowTest[] = []
    if (status !== undefined) {
      const wanted = memberStatuses.indexOf(status)
      tests.push((row) => this.statuses[row] === wanted)
    }
    if (form !== undefined) tests.push(this.ofOrigin(({ from }) => from?.form === form))
    const words = search.trim().toLowerCase()
    if (words !== '') {
      const answers = this.answerPool.whichText((text) => text.includes(words))
      const wantedSpots = new Set<string>(spots)
      const places = this.originPool.which(
        ({ from }) => from !== null && (wantedSpots.has(from.spot) || placeWords(from).includes(words)),
      )
      tests.push(
        (row) => answers[this.answers[row]!] === 1 || places[this.origins[row]!] === 1 || this.hasInAddress(row, words),
      )
    }
    if (filter !== undefined && filter.conditions.length > 0) {
      const parts = filter.conditions.map((condition) => this.testOf(questionOf(condition, now)))
      tests.push(
        filter.join === 'and'
          ? (row) => parts.every((holds) => holds(row))
          : (row) => parts.some((holds) => holds(row)),
      )
    }
    for (const [ids, isIn] of [
      [only, true],
      [except, false],
    ] as const) {
      if (ids === undefined) continue
      const rows = new Set(ids.map((id) => this.rows.get(id)))
      tests.push((row) => rows.has(row) === isIn)
    }
    return tests
  }

  private testOf(question: ReturnType<typeof questionOf>): RowTest {
    switch (question.of) {
      case 'status': {
        const wanted = memberStatuses.map((status) => question.holds(status))
        return (row) => wanted[this.statuses[row]!]!
      }
      case 'answers': {
        const wanted = this.answerPool.which(question.holds)
        return (row) => wanted[this.answers[row]!] === 1
      }
      case 'origin':
        return this.ofOrigin(question.holds)
      case 'joined':
        return (row) => question.holds(this.joined[row]!)
      case 'email':
        return (row) => question.holds(this.typed[row]!)
    }
  }

  private ofOrigin(holds: (origin: Origin) => boolean): RowTest {
    const wanted = this.originPool.which(holds)
    return (row) => wanted[this.origins[row]!] === 1
  }

  private hasInAddress(row: number, words: string): boolean {
    const compared = this.compared[row]!
    if (compared.includes(words)) return true
    const typed = this.typed[row]!
    return typed !== compared && typed.toLowerCase().includes(words)
  }

  private orderBy(sort: Sort): readonly number[] {
    if (this.hasGaps) {
      const isHere = new Set(this.rows.values())
      this.order = this.order.filter((row) => isHere.has(row))
      this.hasGaps = false
    }
    if (!this.isInOrder) {
      this.order.sort((one, other) => this.compare(one, other, this.joined[other]!, this.compared[other]!))
      this.isInOrder = true
    }
    if (sort.by === 'since') return this.order
    const by = [sort.by, ...(sort.spots ?? [])].join(' ')
    if (this.sorted?.by !== by) this.sorted = { by, order: this.sortedBy(sort) }
    return this.sorted.order
  }

  /** Sorted by numbers that stand for what is shared, and by the time of joining where it is the same. */
  private sortedBy({ by, spots = [] }: Sort): number[] {
    const place = new Map(this.order.map((row, at) => [row, at]))
    const byPlace = (one: number, other: number) => place.get(one)! - place.get(other)!
    if (by === 'email')
      return this.order.toSorted((one, other) => (this.compared[one]! < this.compared[other]! ? -1 : 1))
    if (by === 'status')
      return this.order.toSorted((one, other) => this.statuses[one]! - this.statuses[other]! || byPlace(one, other))
    if (by === 'spot' || by === 'page') {
      const places = new Map(spots.map((spot, at) => [spot, at]))
      const compare =
        by === 'page'
          ? (one: Origin, other: Origin) => compareTexts(one.from?.page ?? '', other.from?.page ?? '')
          : (one: Origin, other: Origin) => placeOf(one, places) - placeOf(other, places)
      const ranks = this.originPool.ranksBy(compare)
      return this.order.toSorted(
        (one, other) => ranks[this.origins[one]!]! - ranks[this.origins[other]!]! || byPlace(one, other),
      )
    }
    const textOf = ({ values, tags = [] }: Answers) =>
      (by === 'tags' ? tags.join(', ') : valueOf({ values }, by.slice('column '.length))).toLowerCase()
    const ranks = this.answerPool.ranksBy((one, other) => compareTexts(textOf(one), textOf(other)))
    return this.order.toSorted(
      (one, other) => ranks[this.answers[one]!]! - ranks[this.answers[other]!]! || byPlace(one, other),
    )
  }

  /**
   * By when they joined; of one moment by address, so that the same list is in the same order wherever it is kept.
   *
   * @param joined of the other, who may not be kept yet, as is `address`
   */
  private compare(one: number, other: number, joined: number, address: string): number {
    if (this.joined[one] !== joined) return this.joined[one]! < joined ? -1 : 1
    const own = this.compared[one]!
    if (own !== address) return own < address ? -1 : 1
    const [a, b] = [this.ids[one]!, this.ids[other]!]
    return a < b ? -1 : a > b ? 1 : 0
  }
}

/** Where somebody's spot stands among all; who came by none stands last. */
function placeOf({ from }: Origin, places: ReadonlyMap<string, number>): number {
  return from === null ? places.size + 1 : (places.get(from.spot) ?? places.size)
}

/** Numbers by their size, before words; nothing after everything. */
function compareTexts(one: string, other: string): number {
  if (one === other) return 0
  if (one === '' || other === '') return one === '' ? 1 : -1
  const [a, b] = [Number(one), Number(other)]
  if (!Number.isNaN(a) && !Number.isNaN(b) && a !== b) return a - b
  return one < other ? -1 : 1
}

/** The same for one person who stands in no row. */
function isWanted(member: Member, wanted: Wanted, now: number): boolean {
  const { form, status, search = '', spots = [], filter, only, except } = wanted
  if (status !== undefined && member.status !== status) return false
  if (form !== undefined && member.from?.form !== form) return false
  const words = search.trim().toLowerCase()
  if (words !== '' && !searchable(member).includes(words) && !spots.includes(member.from?.spot ?? '')) return false
  if (only !== undefined && !only.includes(member.id)) return false
  if (except?.includes(member.id) === true) return false
  return filter === undefined || matches(filter, member, now)
}

/** What tells where somebody came from: the page, the spot's mark, the campaign. */
function placeWords({ page, cameFrom }: NonNullable<Member['from']>): string {
  return [page, cameFrom?.source, cameFrom?.campaign].filter(Boolean).join('\n').toLowerCase()
}

function searchable({ email, values, tags = [], from }: Member): string {
  const all = [email.typed, email.compared, ...Object.values(values), ...tags, from === null ? '' : placeWords(from)]
  return all.join('\n').toLowerCase()
}

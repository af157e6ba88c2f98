import type { FormId, ListId, MemberId, SpotId } from '#core/ids'
import type { Arrival, Entry } from '#core/journal'
import { affectedMembers, isJoining, type MemberStatus, movementOf } from '#core/list'
import { sourceOf } from '#core/signup'
import { localTime } from './time'

/** What came of sign-ups at one spot on one day. */
export interface SignUpRow {
  day: string
  spot: SpotId
  form: FormId
  version: number
  /** What led there: the owner's mark, a campaign's words, or the host of the page before; empty for nothing told. */
  source: string
  /** People who signed up: joined at once, or asked to confirm. */
  signUps: number
  /** Of these, whose view of the form was counted too. */
  viewed: number
  /** Of these, who were asked to confirm by mail. */
  asked: number
  /** Of these, who are on the list, at once or once they confirmed, whatever became of them later. */
  confirmed: number
  /** Who signed up and was there already. */
  already: number
  /** Held back as no person. */
  bots: number
}

/** How a list grew on one day. */
export interface GrowthRow {
  day: string
  list: ListId
  came: number
  /** Of these, who were brought in from a file or added by hand: growth of another kind than a form’s. */
  brought: number
  /** Who left, were taken off, bounced or were forgotten. */
  left: number
}

/** Sign-ups by weekday (0 for Monday) and hour of the site's clocks. */
export interface HourRow {
  day: string
  hour: number
  spot: SpotId
  signUps: number
}

export interface PeopleResults {
  rows: SignUpRow[]
  growth: GrowthRow[]
  hours: HourRow[]
  /** Of each who confirmed by mail, the day they signed up, where, and how long it took, in milliseconds. */
  delays: { day: string; spot: SpotId; ms: number }[]
}

interface Waiting {
  row: SignUpRow
  at: number
}

/**
 * Adds up what the journal says of people: the only place where they are counted for results. Entries are added in order;
 * what was erased keeps counting, because only sums are kept.
 */
export class PeopleCounter {
  private readonly rows = new Map<string, SignUpRow>()
  private readonly growth = new Map<string, GrowthRow>()
  private readonly hours = new Map<string, HourRow>()
  private readonly delays: PeopleResults['delays'] = []
  private readonly waiting = new Map<MemberId, Waiting>()
  private readonly standing = new Map<MemberId, { list: ListId; status: MemberStatus }>()
  /** Where each was counted last, as coming or as leaving. */
  private readonly moved = new Map<MemberId, { row: GrowthRow; isBrought: boolean }>()

  /**
   * @param zoneOf the zone whose clocks a spot's days are told by
   * @param listZone the same for lists
   */
  constructor(
    private readonly zoneOf: (spot: SpotId) => string,
    private readonly listZone: string,
  ) {}

  add(entry: Entry): void {
    if (entry.kind === 'arrival') this.addArrival(entry)
    if (entry.kind === 'member-confirmed') this.confirm(entry.member, Date.parse(entry.at))
    for (const member of affectedMembers(entry)) this.stand(member, entry)
  }

  results(): PeopleResults {
    return {
      rows: [...this.rows.values()],
      growth: [...this.growth.values()],
      hours: [...this.hours.values()],
      delays: this.delays,
    }
  }

  /** Of one list, the first day first. */
  growthOf(list: ListId): GrowthRow[] {
    const rows = [...this.growth.values()].filter((row) => row.list === list)
    return rows.sort((one, other) => (one.day < other.day ? -1 : 1))
  }

  /** How many are on each list for good. */
  counts(): Record<ListId, number> {
    const counts: Record<ListId, number> = {}
    for (const { list, status } of this.standing.values())
      if (status === 'confirmed') counts[list] = (counts[list] ?? 0) + 1
    return counts
  }

  private addArrival(arrival: Arrival): void {
    const { spot, form, version, verdict } = arrival
    const at = Date.parse(arrival.at)
    const { day, hour } = localTime(at, this.zoneOf(spot))
    const source = sourceOf(arrival.personal?.cameFrom ?? {})
    const row = placed(this.rows, `${day} ${spot} ${version} ${source}`, () => ({
      ...{ day, spot, form, version, source },
      ...{ signUps: 0, viewed: 0, asked: 0, confirmed: 0, already: 0, bots: 0 },
    }))
    if (verdict === 'bot') row.bots += 1
    if (verdict === 'already-on-list' || verdict === 'already-waiting') row.already += 1
    if (!isJoining(verdict)) return
    row.signUps += 1
    if (arrival.viewed === true) row.viewed += 1
    placed(this.hours, `${day} ${hour} ${spot}`, () => ({ day, hour, spot, signUps: 0 })).signUps += 1
    if (verdict === 'joined') row.confirmed += 1
    else row.asked += 1
    if (verdict === 'confirm-first' && arrival.member !== null) this.waiting.set(arrival.member, { row, at })
  }

  private confirm(member: MemberId, at: number): void {
    const waiting = this.waiting.get(member)
    if (waiting === undefined) return
    this.waiting.delete(member)
    waiting.row.confirmed += 1
    this.delays.push({ day: waiting.row.day, spot: waiting.row.spot, ms: Math.max(0, at - waiting.at) })
  }

  private stand(member: MemberId, entry: Entry): void {
    const before = this.standing.get(member) ?? null
    const status = statusAfter(entry, before?.status ?? null)
    if (status === (before?.status ?? null)) return
    const list = before?.list ?? entry.list
    if (status === null) this.standing.delete(member)
    else this.standing.set(member, { list, status })
    const [was, is] = [before?.status === 'confirmed', status === 'confirmed']
    if (was === is) return
    const movement = movementOf(entry)
    const last = this.moved.get(member)
    if (movement === 'taken-back' && last !== undefined) {
      this.moved.delete(member)
      last.row[is ? 'left' : 'came'] -= 1
      if (!is && last.isBrought) last.row.brought -= 1
      return
    }
    // Who is brought in came when they joined elsewhere.
    const at = entry.kind === 'member-written' ? entry.joinedAt : entry.at
    const { day } = localTime(Date.parse(at), this.listZone)
    const row = placed(this.growth, `${day} ${list}`, () => ({ day, list, came: 0, brought: 0, left: 0 }))
    row[is ? 'came' : 'left'] += 1
    const isBrought = is && movement === 'brought'
    if (isBrought) row.brought += 1
    this.moved.set(member, { row, isBrought })
  }
}

function placed<Row>(rows: Map<string, Row>, key: string, made: () => Row): Row {
  let row = rows.get(key)
  if (row === undefined) rows.set(key, (row = made()))
  return row
}

/**
 * What somebody's status is after an entry, as `applyToMember` has it, though what is personal in the entry may be erased;
 * null for nobody. A test holds both against each other.
 */
function statusAfter(entry: Entry, before: MemberStatus | null): MemberStatus | null {
  switch (entry.kind) {
    case 'arrival':
      return entry.verdict === 'joined' ? 'confirmed' : 'waiting'
    case 'member-added':
      return 'confirmed'
    case 'member-written':
      return entry.status
    case 'members-erased':
      return null
    case 'members-changed': {
      const change = entry.personal?.change
      if (change?.kind === 'withdraw') return null
      if (before === null) return null
      if (change?.kind === 'remove') return before === 'left' ? before : 'removed'
      if (change?.kind === 'restore') return before === 'confirmed' || before === 'waiting' ? before : change.status
      return before
    }
    default:
      return before === null ? null : changedStatus(entry, before)
  }
}

function changedStatus(entry: Entry, before: MemberStatus): MemberStatus {
  switch (entry.kind) {
    case 'member-restored':
      return entry.status
    case 'member-confirmed':
    case 'member-returned':
      return 'confirmed'
    case 'member-removed':
    case 'member-expired':
      return 'removed'
    case 'member-left':
      return 'left'
    case 'member-bounced':
      return 'bounced'
    default:
      return before
  }
}

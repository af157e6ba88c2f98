import type { BatchId, ListId, MemberId } from '#core/ids'
import { type Batch, type Entry, entryKinds } from '#core/journal'
import { affectedMembers, applyToMember } from './fold'
import { ListRoster } from './list-roster'
import { type Member, type MemberStatus, noCounts } from './member'
import type { Found, Wanted } from './wanted'

/** A batch as the journal tells of it. */
export interface BatchRecord extends Batch {
  begunAt: string
  /** Number of the entry that began it: its other entries follow. */
  begun: number
  /** Null while it goes on. */
  ended: Pick<Extract<Entry, { kind: 'batch-ended' }>, 'n' | 'at' | 'isStopped' | 'counts' | 'passedOver'> | null
  /** The batch that took it back. */
  undoneBy: BatchId | null
  /** Id of the key that it was begun with, where that is known. */
  by?: string
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
  private readonly batchRecords = new Map<BatchId, BatchRecord>()
  private readonly erased = new Set<string>()

  /** Takes in entries in their order. Those that are in it already, and those of kinds not known here, are passed over. */
  take(entries: readonly Entry[]): void {
    for (const entry of entries) {
      if (entry.n <= this.cursor) continue
      this.cursor = entry.n
      if (entryKinds.includes(entry.kind)) this.fold(entry)
    }
  }

  private fold(entry: Entry): void {
    this.noteBatch(entry)
    if (entry.kind === 'members-erased') {
      for (const hash of entry.hashes) this.erased.add(hash)
      // On whatever list they were.
      for (const people of this.lists.values()) for (const id of entry.members) people.drop(id)
      return
    }
    const people = this.peopleOf(entry.list)
    const ids = affectedMembers(entry)
    if (ids.length === 0 && entry.member !== null) people.noteEntry(entry.member, entry.n)
    for (const id of ids) {
      people.noteEntry(id, entry.n)
      const member = applyToMember(people.get(id), entry)
      if (member === null) people.drop(id)
      else people.keep(member, entry.n)
    }
  }

  private noteBatch(entry: Entry): void {
    if (entry.kind === 'batch-begun') {
      const { batch: id, list, purpose, at: begunAt, n: begun } = entry
      const by = entry.by === undefined ? {} : { by: entry.by }
      this.batchRecords.set(id, { id, list, purpose, begunAt, begun, ended: null, undoneBy: null, ...by })
      const undone = purpose.kind === 'undo' ? this.batchRecords.get(purpose.of) : undefined
      if (undone !== undefined) undone.undoneBy = id
    } else if (entry.kind === 'batch-ended') {
      const record = this.batchRecords.get(entry.batch)
      const { n, at, isStopped, counts, passedOver } = entry
      if (record !== undefined) record.ended = { n, at, isStopped, counts, passedOver }
    }
  }

  get(list: ListId, id: MemberId): Member | null {
    return this.lists.get(list)?.get(id) ?? null
  }

  withAddress(list: ListId, compared: string): Member | null {
    return this.lists.get(list)?.withAddress(compared) ?? null
  }

  /** Everybody with an address, on whatever lists. */
  everywhere(compared: string): Member[] {
    return [...this.lists.keys()].flatMap((list) => this.withAddress(list, compared) ?? [])
  }

  /**
   * Those who are wanted, newest first unless said otherwise.
   *
   * @param now milliseconds since 1970, for what is counted in days before it
   * @param instead what somebody is to be taken for, where a change is still on its way
   */
  find(wanted: Wanted, now: number, instead: ReadonlyMap<MemberId, Member> = new Map()): Found {
    return this.lists.get(wanted.list)?.find(wanted, now, instead) ?? { members: [], total: 0 }
  }

  /** All who are wanted, by what a change names them with. */
  select(wanted: Wanted, now: number): { id: MemberId; revision: number }[] {
    return this.lists.get(wanted.list)?.select(wanted, now) ?? []
  }

  /** How many there are of those who are wanted. */
  count(wanted: Wanted, now: number): number {
    return this.find({ ...wanted, offset: 0, limit: 0 }, now).total
  }

  /** How many of a list have each tag, the most frequent first. */
  tagCounts(list: ListId): { tag: string; count: number }[] {
    return this.lists.get(list)?.tagCounts() ?? []
  }

  /** Batches of a list, newest first. */
  batches(list: ListId): BatchRecord[] {
    return [...this.batchRecords.values()].filter((one) => one.list === list).reverse()
  }

  batch(id: BatchId): BatchRecord | null {
    return this.batchRecords.get(id) ?? null
  }

  /** Keyed hashes of the addresses of those who were erased. */
  get erasedHashes(): ReadonlySet<string> {
    return this.erased
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
    return this.lists.get(list)?.entries(id) ?? []
  }

  clear(): void {
    this.cursor = 0
    this.lists.clear()
    this.batchRecords.clear()
    this.erased.clear()
  }

  private peopleOf(id: ListId): ListRoster {
    const existing = this.lists.get(id)
    if (existing !== undefined) return existing
    const made = new ListRoster(id)
    this.lists.set(id, made)
    return made
  }
}

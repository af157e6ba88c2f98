import type { BatchId, JournalId, ListId, MemberId } from '#core/ids'
import { emailIn, type Entry, idOf, type NewEntry } from '#core/journal'
import { affectedMembers, isJoining } from '#core/list'
import { newId } from '../random'
import { type Newest } from '../store'
import { RETRY_WINDOW_MS } from './tables'
import type { Transaction } from '../subjects'
import { appendEntry } from './append'
import { eraseMessagesAgain } from './message-erasing'
import { keepJournalId } from './identity'
import { stageErasure } from './batches'
import { keepTakenIn } from './taken-in'

export type RefillResult =
  | { ok: true; latest: number }
  | { ok: false; code: 'not-empty' | 'gap' | 'broken-reference' | 'address-twice'; message: string }

export interface Recovered {
  latest: number
  /** Entries that were taken in, and those that could not be any more. */
  taken: number
  left: number
}

/** Takes in history that another has: of a new receiver, or of one that was put back to an older copy of itself. */
export class Refilling {
  constructor(private readonly now: () => number) {}

  private recovering: { common: number; upTo: number; ids: Set<string>; usedAt: number } | null = null

  async refill(
    transaction: Transaction,
    here: JournalId,
    journal: JournalId,
    entries: readonly Entry[],
  ): Promise<RefillResult> {
    let newest = await transaction.newestEntry()
    const from = newest.n + 1
    if (newest.n > 0 && journal !== here)
      return { ok: false, code: 'not-empty', message: 'This receiver already keeps another history.' }
    for (const [at, entry] of entries.entries()) {
      const expected = newest.n + 1 + at
      if (entry.n !== expected)
        return {
          ok: false,
          code: 'gap',
          message: `The next entry must be number ${expected}, and none may be missing.`,
        }
    }
    if (journal !== here) await keepJournalId(transaction, journal)
    await transaction.readAhead({
      addresses: entries.flatMap((entry) => {
        const email = emailIn(entry)
        return email === null ? [] : [{ list: entry.list, compared: email.compared }]
      }),
      members: entries.flatMap(affectedMembers),
    })
    const lists = new Map<ListId, boolean>()
    for (const { n, ...entry } of entries) {
      const problem = await this.problemOf(transaction, { n, ...entry } as Entry, lists)
      // Thrown, so that the transaction rolls the earlier entries back.
      if (problem !== null) throw new RefillProblem(problem)
      newest = await this.append(transaction, entry as NewEntry, newest)
    }
    if (newest.n >= from) await keepTakenIn(transaction, { from, to: newest.n, at: this.now() })
    return { ok: true, latest: newest.n }
  }

  async recover(transaction: Transaction, common: number, entries: readonly Entry[], now: number): Promise<Recovered> {
    const ids = await this.idsAfter(transaction, common, now)
    const from = (await transaction.newestEntry()).n + 1
    /** People who came back under another id meanwhile. */
    const sameAs = new Map<string, MemberId>()
    let taken = 0
    for (const entry of entries) {
      if (ids.has(idOf(entry))) continue
      const again = await this.again(transaction, entry, sameAs)
      if (again === null) continue
      await this.append(transaction, again, await transaction.newestEntry())
      taken += 1
    }
    const latest = (await transaction.newestEntry()).n
    if (latest >= from) await keepTakenIn(transaction, { from, to: latest, at: now })
    return { latest, taken, left: entries.length - taken }
  }

  /** The ids of all entries after a number. Kept from one stretch to the next: each reads only what came since. */
  private async idsAfter(transaction: Transaction, common: number, now: number): Promise<ReadonlySet<string>> {
    // Of work that was undone meanwhile, which the journal then does not have.
    const isUndone = this.recovering !== null && this.recovering.upTo > (await transaction.newestEntry()).n
    if (this.recovering?.common !== common || isUndone)
      this.recovering = { common, upTo: common, ids: new Set(), usedAt: now }
    const { recovering } = this
    for (;;) {
      const page = await transaction.entriesAfter(recovering.upTo, 1000)
      for (const { entry } of page) recovering.ids.add(idOf(entry))
      if (page.length === 0) break
      recovering.upTo = page.at(-1)!.entry.n
    }
    recovering.usedAt = now
    return recovering.ids
  }

  /** The entry as it can be appended to another history than its own; null when it cannot. */
  private async again(
    transaction: Transaction,
    { n: _, ...entry }: Entry,
    sameAs: Map<string, MemberId>,
  ): Promise<NewEntry | null> {
    const list = await transaction.object('list', entry.list)
    if (list === null) return null
    const email = emailIn(entry)
    const holder = email === null ? null : await transaction.memberWithAddress(entry.list, email.compared)
    if (entry.kind === 'arrival') {
      if (entry.member === null) return entry as NewEntry
      if (holder === null || holder.id === entry.member)
        return { ...entry, member: sameAs.get(entry.member) ?? entry.member } as NewEntry
      sameAs.set(entry.member, holder.id)
      const isOnList = holder.status === 'confirmed' || holder.status === 'waiting'
      return {
        ...entry,
        member: holder.id,
        verdict: isJoining(entry.verdict) && isOnList ? 'already-on-list' : entry.verdict,
      } as NewEntry
    }
    if (entry.kind === 'member-added' || (entry.kind === 'member-written' && holder?.id !== entry.member)) {
      if (holder === null) return entry as NewEntry
      sameAs.set(entry.member, holder.id)
      return null
    }
    if (entry.kind === 'members-erased') {
      await this.eraseAgain(transaction, entry)
      return null
    }
    if (entry.kind === 'messages-erased') {
      await eraseMessagesAgain(transaction, entry.messages, entry.why, this.now())
      return null
    }
    if (entry.kind === 'members-changed')
      return { ...entry, members: entry.members.map((one) => sameAs.get(one) ?? one) } as NewEntry
    if (entry.member === null) return entry as NewEntry
    const id = sameAs.get(entry.member) ?? entry.member
    const isTaken =
      (entry.kind === 'member-edited' || entry.kind === 'member-corrected') && holder !== null && holder.id !== id
    return isTaken || (await transaction.member(id)) === null ? null : ({ ...entry, member: id } as NewEntry)
  }

  /**
   * What keeps an entry of a copy from following this journal, or null.
   *
   * @param lists whether they are here, as far as it was asked
   */
  private async problemOf(
    transaction: Transaction,
    entry: Entry,
    lists: Map<ListId, boolean>,
  ): Promise<Extract<RefillResult, { ok: false }> | null> {
    const refuse = (code: 'broken-reference' | 'address-twice', message: string) => ({
      ok: false as const,
      code,
      message: `Entry ${entry.n} ${message}.`,
    })
    const isHere = lists.get(entry.list) ?? (await transaction.object('list', entry.list)) !== null
    lists.set(entry.list, isHere)
    if (!isHere) return refuse('broken-reference', `is about the list “${entry.list}”, which is not here`)
    // Of many, those who are here are changed.
    const [id] = affectedMembers(entry)
    if (id === undefined || entry.member === null) return null
    const member = await transaction.member(id)
    const isMaking = entry.kind === 'arrival' || entry.kind === 'member-added' || entry.kind === 'member-written'
    if (member === null && !isMaking && (await transaction.value(namelessKey(id), 0)) === null)
      return refuse('broken-reference', `is about the member “${id}”, who is not here`)
    const email = emailIn(entry)
    const holder = email === null ? null : await transaction.memberWithAddress(entry.list, email.compared)
    return holder !== null && holder.id !== id
      ? refuse('address-twice', `gives a second member the address ${holder.email.compared}`)
      : null
  }

  /** Repeats erasures made since the copy, as a batch of its own: entries have other numbers here. */
  private async eraseAgain(
    transaction: Transaction,
    entry: Extract<NewEntry, { kind: 'members-erased' }>,
  ): Promise<void> {
    for (const hash of entry.hashes) await transaction.keepErased(hash)
    if (entry.members.length === 0) return
    const batch = { id: newId<BatchId>(), list: entry.list, purpose: { kind: 'erase' as const } }
    await stageErasure(transaction, batch, entry.members, this.now())
  }

  /** Deletes the state of a finished recovery. */
  prune(now: number): void {
    if (this.recovering !== null && now - this.recovering.usedAt > RETRY_WINDOW_MS) this.recovering = null
  }

  /** History that is taken in causes no mail. */
  private async append(transaction: Transaction, entry: NewEntry, before: Newest): Promise<Newest> {
    const { newest } = await appendEntry(transaction, entry, before)
    if (entry.kind === 'message-released') await transaction.releaseMessage(entry.message)
    if (isNameless(entry)) await transaction.keepValue(namelessKey(entry.member), true, null)
    if (entry.kind === 'members-erased') {
      for (const hash of entry.hashes) await transaction.keepErased(hash)
      for (const id of entry.members) await transaction.dropValue(namelessKey(id))
    }
    return newest
  }
}

/** Whether an entry would make somebody a member, but was erased: who it was is not known, and later entries are about them. */
function isNameless(entry: NewEntry): entry is NewEntry & { member: MemberId } {
  const isMaking = entry.kind === 'member-added' || entry.kind === 'member-written' || entry.kind === 'arrival'
  return isMaking && entry.personal === null && entry.member !== null
}

const namelessKey = (member: MemberId) => `nameless ${member}`

/** Undoes a refilling that cannot go on, and says why. */
export class RefillProblem extends Error {
  constructor(readonly result: Extract<RefillResult, { ok: false }>) {
    super(result.message)
  }
}

import { createHash } from 'node:crypto'
import type { ArrivalId, JournalId, ListId, MemberId } from '#core/ids'
import { type Command, type Entry, idOf, type NewEntry, skeletonOf } from '#core/journal'
import { affectedMember, applyToMember, decide, isJoining, type Member } from '#core/list'
import type { MailSettings } from '#core/mail'
import { countryOf } from '#core/region'
import { verdictOn, type SignUp } from '#core/signup'
import { keepableText } from '#core/text'
import type { Cause } from '../limits'
import { newId } from '../random'
import type { Newest, People, Transaction } from '../store/engine'
import {
  type CommandOutcome,
  OUTCOMES_KEPT_MS,
  type Recovered,
  type RefillResult,
  RETRY_WINDOW_MS,
  type SignUpResult,
  type Confirmed,
} from './ledger'
import { type MailFate, queueExtra, queueFor, queueMailsFor } from './mailing'
import { Retries } from './retries'

const DAY_MS = 86_400_000

/** The mark of an entry that follows one with the mark `before`; see `skeletonOf`. 22 letters are 132 bits. */
export function markAfter(before: string, entry: Entry): string {
  return createHash('sha256').update(before).update(skeletonOf(entry)).digest('base64url').slice(0, 22)
}

/** One writer of the journal: what each piece of work appends follows what the one before it did. */
export class JournalWriter {
  private prunedAt = 0
  private recovering: { common: number; upTo: number; ids: Set<string>; usedAt: number } | null = null
  readonly retries = new Retries()

  /**
   * @param newest what the journal ends with; has to be read anew after work was undone
   * @param mailOf a list's mail as it is sent; null where it sends none
   */
  constructor(
    public newest: Newest,
    private readonly mailOf: (list: ListId) => MailSettings | null,
  ) {}

  /** After work was undone: what is kept in memory is read anew. */
  forgetFrom(n: number): void {
    this.retries.forgetFrom(n)
    this.recovering = null
  }

  signUp(transaction: People, signUp: SignUp, retryKey: string, now: number, cause: Cause): SignUpResult {
    const repeated = this.retries.first(retryKey, now)
    const member =
      signUp.email === null ? null : transaction.memberWithAddress(signUp.version.list, signUp.email.compared)
    if (repeated !== null)
      return {
        verdict: repeated.verdict,
        repeated: true,
        member: member?.id ?? newId(),
        isMailHeld: repeated.isMailHeld,
      }
    const mail = this.mailOf(signUp.version.list)
    const arrival = verdictOn(signUp, {
      member,
      newMember: newId(),
      newArrival: newId(),
      at: new Date(now).toISOString(),
      mail,
      country: mail?.confirm === 'regions' ? countryOf(signUp.whereabouts) : null,
    })
    const { n, fate } = this.append(transaction, arrival, member, now, cause)
    const isMailHeld = fate === 'held'
    this.retries.keep(retryKey, { n, at: now, verdict: arrival.verdict, isMailHeld })
    transaction.keepRetry(n, retryKey)
    this.prune(transaction, now)
    return { verdict: arrival.verdict, repeated: false, member: arrival.member ?? newId(), isMailHeld }
  }

  /** Somebody followed the link of the mail that was sent when the waiting began at `since`. */
  confirm(people: People, id: MemberId, since: string, now: number, sureNow: number): Confirmed {
    const member = people.member(id)
    if (member === null || member.joinedAt !== since) return 'expired'
    if (member.status === 'confirmed') return 'used'
    if (member.status !== 'waiting') return 'expired'
    const days = this.mailOf(member.list)?.waitingDays
    if (days !== undefined && sureNow > Date.parse(since) + days * DAY_MS) return 'expired'
    this.append(people, { ...this.itself(member, now), kind: 'member-confirmed' }, member, now)
    return 'confirmed'
  }

  /** Takes somebody off the list. One who is not on it stays as he is. */
  leave(people: People, id: MemberId, by: 'page' | 'one-click', now: number): boolean {
    const member = people.member(id)
    if (member?.status !== 'confirmed' && member?.status !== 'waiting') return false
    this.append(people, { ...this.itself(member, now), kind: 'member-left', by }, member, now)
    return true
  }

  /** Puts somebody back who left. */
  comeBack(people: People, id: MemberId, now: number): boolean {
    const member = people.member(id)
    if (member?.status !== 'left') return false
    this.append(people, { ...this.itself(member, now), kind: 'member-returned' }, member, now)
    return true
  }

  /** Sends what somebody who signed up is waiting for once more; with `isExtra`, beyond the inbox's share. */
  sendAgain(people: People, id: MemberId, now: number, isExtra = false): MailFate {
    const member = people.member(id)
    const mail = member === null ? null : this.mailOf(member.list)
    if (member === null || mail === null) return 'none'
    const kind =
      member.status === 'waiting'
        ? 'confirmation'
        : member.status === 'confirmed' && mail.isDiscreet
          ? 'already-there'
          : null
    if (kind === null) return 'none'
    const isQueued = queueFor(people, member, kind, now) || (isExtra && queueExtra(people, member, kind, now))
    return isQueued ? 'queued' : 'held'
  }

  /** Removes who never confirmed in time. */
  expire(people: People, id: MemberId, now: number): boolean {
    const member = people.member(id)
    if (member?.status !== 'waiting') return false
    this.append(people, { ...this.itself(member, now), kind: 'member-expired' }, member, now)
    return true
  }

  /** Marks somebody whose address takes no mail. */
  bounce(people: People, id: MemberId, reason: string, now: number): boolean {
    const member = people.member(id)
    if (member?.status !== 'confirmed' && member?.status !== 'waiting') return false
    this.append(
      people,
      { ...this.itself(member, now), kind: 'member-bounced', reason: keepableText(reason, 500) },
      member,
      now,
    )
    return true
  }

  private itself({ id, list }: Member, now: number) {
    return { at: new Date(now).toISOString(), id: newId<ArrivalId>(), list, member: id }
  }

  carryOut(transaction: Transaction, command: Command, now: number): CommandOutcome {
    const known = transaction.outcome(command.id)
    if (known !== null) return known
    const list = transaction.object('list', command.list)
    const decision = decide(
      command,
      {
        isList: list !== null && !list.isDeleted,
        member: transaction.member(command.member),
        withAddress: (compared) => transaction.memberWithAddress(command.list, compared),
      },
      new Date(now).toISOString(),
    )
    const outcome: CommandOutcome = decision.ok
      ? { id: command.id, ok: true, n: this.append(transaction, decision.entry).n }
      : { id: command.id, ok: false, problem: decision.problem }
    transaction.keepOutcome(command.id, now, outcome)
    this.prune(transaction, now)
    return outcome
  }

  refill(transaction: Transaction, here: JournalId, journal: JournalId, entries: readonly Entry[]): RefillResult {
    if (this.newest.n > 0 && journal !== here)
      return { ok: false, code: 'not-empty', message: 'This receiver already keeps another history.' }
    for (const [at, entry] of entries.entries()) {
      const expected = this.newest.n + 1 + at
      if (entry.n !== expected)
        return {
          ok: false,
          code: 'gap',
          message: `The next entry must be number ${expected}, and none may be missing.`,
        }
    }
    if (journal !== here) transaction.keepIdentity(journal)
    for (const { n, ...entry } of entries) {
      const problem = this.problemOf(transaction, { n, ...entry } as Entry)
      // Thrown, because what was appended before it has to go as well.
      if (problem !== null) throw new RefillProblem(problem)
      this.append(transaction, entry as NewEntry)
    }
    return { ok: true, latest: this.newest.n }
  }

  recover(transaction: Transaction, common: number, entries: readonly Entry[], now: number): Recovered {
    const known = this.idsAfter(transaction, common, now)
    /** People who came back under another id meanwhile. */
    const sameAs = new Map<string, MemberId>()
    let taken = 0
    for (const entry of entries) {
      if (known.has(idOf(entry))) continue
      const again = this.again(transaction, entry, sameAs)
      if (again === null) continue
      this.append(transaction, again)
      taken += 1
    }
    return { latest: this.newest.n, taken, left: entries.length - taken }
  }

  /** The ids of all entries after a number. Kept from one stretch to the next: each reads only what came since. */
  private idsAfter(transaction: Transaction, common: number, now: number): ReadonlySet<string> {
    if (this.recovering?.common !== common) this.recovering = { common, upTo: common, ids: new Set(), usedAt: now }
    const { recovering } = this
    for (;;) {
      const page = transaction.entriesAfter(recovering.upTo, 1000)
      for (const { entry } of page) recovering.ids.add(idOf(entry))
      if (page.length === 0) break
      recovering.upTo = page.at(-1)!.entry.n
    }
    recovering.usedAt = now
    return recovering.ids
  }

  /** The entry as it can be appended to another history than its own; null when it cannot. */
  private again(transaction: Transaction, { n: _, ...entry }: Entry, sameAs: Map<string, MemberId>): NewEntry | null {
    const list = transaction.object('list', entry.list)
    if (list === null) return null
    const email = 'email' in entry ? entry.email : null
    const holder = email === null ? null : transaction.memberWithAddress(entry.list, email.compared)
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
    if (entry.kind === 'member-added') {
      if (holder === null) return entry as NewEntry
      sameAs.set(entry.member, holder.id)
      return null
    }
    const id = sameAs.get(entry.member) ?? entry.member
    const isTaken = entry.kind === 'member-edited' && holder !== null && holder.id !== id
    return transaction.member(id) === null || isTaken ? null : ({ ...entry, member: id } as NewEntry)
  }

  /** What keeps an entry of a copy from following this journal, or null. */
  private problemOf(transaction: Transaction, entry: Entry): Extract<RefillResult, { ok: false }> | null {
    const refuse = (code: 'broken-reference' | 'address-twice', message: string) => ({
      ok: false as const,
      code,
      message: `Entry ${entry.n} ${message}.`,
    })
    if (transaction.object('list', entry.list) === null)
      return refuse('broken-reference', `is about the list “${entry.list}”, which is not here`)
    const id = affectedMember(entry)
    if (id === null) return null
    const member = transaction.member(id)
    if (member === null && entry.kind !== 'arrival' && entry.kind !== 'member-added')
      return refuse('broken-reference', `is about the member “${id}”, who is not here`)
    const email = 'email' in entry ? entry.email : null
    const holder = email === null ? null : transaction.memberWithAddress(entry.list, email.compared)
    return holder !== null && holder.id !== id
      ? refuse('address-twice', `gives a second member the address ${holder.email.compared}`)
      : null
  }

  /**
   * Appends one entry and brings its member, looked up where not given, up to date.
   *
   * @param now given where it happens now: it then causes mail; history that is taken in does not
   */
  private append(
    transaction: People,
    entry: NewEntry,
    known?: Member | null,
    now?: number,
    cause?: Cause,
  ): { n: number; fate: MailFate } {
    const n = this.newest.n + 1
    const numbered = { n, ...entry } as Entry
    const mark = markAfter(this.newest.mark, numbered)
    transaction.append(n, entry, mark)
    const id = affectedMember(numbered)
    let about = known
    if (id !== null) {
      about = applyToMember(known === undefined ? transaction.member(id) : known, numbered)
      if (about !== null) transaction.keepMember(about)
    }
    this.newest = { n, mark }
    const fate =
      now === undefined || about === undefined
        ? 'none'
        : queueMailsFor(transaction, entry, about, this.mailOf(entry.list), now, cause)
    return { n, fate }
  }

  private prune(transaction: People, now: number): void {
    if (now - this.prunedAt < RETRY_WINDOW_MS) return
    this.prunedAt = now
    transaction.forgetRetries(this.retries.oldest ?? this.newest.n + 1)
    transaction.forgetOutcomes(now - OUTCOMES_KEPT_MS)
    if (this.recovering !== null && now - this.recovering.usedAt > RETRY_WINDOW_MS) this.recovering = null
  }
}

/** Undoes a refilling that cannot go on, and says why. */
export class RefillProblem extends Error {
  constructor(readonly result: Extract<RefillResult, { ok: false }>) {
    super(result.message)
  }
}

import { hash } from 'node:crypto'
import type { CommandOutcome } from '#core/api'
import { parseEmail } from '#core/email'
import type { ArrivalId, JournalId, ListId, MemberId } from '#core/ids'
import { type Command, emailIn, type Entry, idOf, type NewEntry, personalText, skeletonOf } from '#core/journal'
import { affectedMember, applyToMember, decide, isJoining, type Member } from '#core/list'
import type { MailSettings } from '#core/mail'
import { countryOf } from '#core/region'
import { verdictOn, type SignUp } from '#core/signup'
import { keepableText } from '#core/text'
import type { Cause } from '../limits'
import { newId } from '../random'
import { type Newest, type PeopleStore, RETRY_WINDOW_MS, type Transaction } from '../store'
import type { Confirmed, Recovered, RefillResult, SignUpResult } from './ledger'
import { type MailFate, queueExtra, queueFor, queueMailsFor } from './mailing'
import { Retries } from './retries'

const DAY_MS = 86_400_000
/** How long a command's outcome is remembered. Sent again later, its revision or its address tells that it was done. */
const OUTCOMES_KEPT_MS = 30 * 86_400_000

/** The mark of an entry that follows one with the mark `before`; see `skeletonOf`. */
function markAfter(before: string, n: number, entry: NewEntry): string {
  return hashOf(before + skeletonOf(n, entry, commitmentOf(entry)))
}

/** What an entry's personal part is committed to by, erased or not; null where it tells nothing of a person. */
export function commitmentOf(entry: NewEntry): string | null {
  const personal = personalText(entry)
  if (personal !== null) return hashOf(personal)
  return 'commitment' in entry ? (entry.commitment ?? null) : null
}

/** SHA-256 in base64url; 22 letters of it are 132 bits. */
function hashOf(text: string): string {
  return hash('sha256', text, 'base64url').slice(0, 22)
}

/** The entry with a salt beside its personal part, where that has none yet. */
function salted(entry: NewEntry): NewEntry {
  if (!('personal' in entry) || entry.personal === null || entry.personal.salt !== undefined) return entry
  return { ...entry, personal: { salt: newId(), ...entry.personal } } as NewEntry
}

/** Writes the journal: what each piece of work appends follows what the journal ends with in its transaction. */
export class JournalWriter {
  private prunedAt = 0
  private readonly retries = new Retries()
  private recovering: { common: number; upTo: number; ids: Set<string>; usedAt: number } | null = null

  /** @param mailOf a list's mail as it is sent; null where it sends none */
  constructor(private readonly mailOf: (list: ListId) => MailSettings | null) {}

  async signUp(
    people: PeopleStore,
    signUp: SignUp,
    retryKey: string,
    now: number,
    cause: Cause,
  ): Promise<SignUpResult> {
    const { list } = signUp.version
    const { newest, member } = await people.newestAndMember(list, signUp.email?.compared ?? null)
    const first = await this.retries.first(people, retryKey, newest, now)
    if (first !== null) {
      const { verdict, isMailHeld } = first
      return { verdict, repeated: true, member: member?.id ?? newId(), isMailHeld }
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
    const appended = await this.append(people, arrival, { newest, known: member, now, cause })
    const isMailHeld = appended.fate === 'held'
    const answer = { n: appended.newest.n, at: now, verdict: arrival.verdict, isMailHeld }
    await this.retries.keep(people, retryKey, answer, appended.newest)
    await this.prune(people, now)
    return { verdict: arrival.verdict, repeated: false, member: arrival.member ?? newId(), isMailHeld }
  }

  /** Somebody followed the link of the mail that was sent when the waiting began at `since`. */
  async confirm(people: PeopleStore, id: MemberId, since: string, now: number, sureNow: number): Promise<Confirmed> {
    const member = await people.member(id)
    if (member === null || member.joinedAt !== since) return 'expired'
    if (member.status === 'confirmed') return 'used'
    if (member.status !== 'waiting') return 'expired'
    const days = this.mailOf(member.list)?.waitingDays
    if (days !== undefined && sureNow > Date.parse(since) + days * DAY_MS) return 'expired'
    await this.append(people, { ...this.itself(member, now), kind: 'member-confirmed' }, { known: member, now })
    return 'confirmed'
  }

  /** Takes somebody off the list. One who is not on it stays as he is. */
  async leave(people: PeopleStore, id: MemberId, by: 'page' | 'one-click', now: number): Promise<boolean> {
    const member = await people.member(id)
    if (member?.status !== 'confirmed' && member?.status !== 'waiting') return false
    await this.append(people, { ...this.itself(member, now), kind: 'member-left', by }, { known: member, now })
    return true
  }

  /** Puts somebody back who left. */
  async comeBack(people: PeopleStore, id: MemberId, now: number): Promise<boolean> {
    const member = await people.member(id)
    if (member?.status !== 'left') return false
    await this.append(people, { ...this.itself(member, now), kind: 'member-returned' }, { known: member, now })
    return true
  }

  /** Sends what somebody who signed up is waiting for once more; with `isExtra`, beyond the inbox's share. */
  async sendAgain(people: PeopleStore, id: MemberId, now: number, isExtra = false): Promise<MailFate> {
    const member = await people.member(id)
    const mail = member === null ? null : this.mailOf(member.list)
    if (member === null || mail === null) return 'none'
    const kind =
      member.status === 'waiting'
        ? 'confirmation'
        : member.status === 'confirmed' && mail.isDiscreet
          ? 'already-there'
          : null
    if (kind === null) return 'none'
    const isQueued =
      (await queueFor(people, member, kind, now)) || (isExtra && (await queueExtra(people, member, kind, now)))
    return isQueued ? 'queued' : 'held'
  }

  /** Removes who never confirmed in time. */
  async expire(people: PeopleStore, id: MemberId, now: number): Promise<boolean> {
    const member = await people.member(id)
    if (member?.status !== 'waiting') return false
    await this.append(people, { ...this.itself(member, now), kind: 'member-expired' }, { known: member, now })
    return true
  }

  /** Marks somebody whose address takes no mail. */
  async bounce(people: PeopleStore, id: MemberId, reason: string, now: number): Promise<boolean> {
    const member = await people.member(id)
    if (member?.status !== 'confirmed' && member?.status !== 'waiting') return false
    await this.append(
      people,
      { ...this.itself(member, now), kind: 'member-bounced', personal: { reason: keepableText(reason, 500) } },
      { known: member, now },
    )
    return true
  }

  private itself({ id, list }: Member, now: number) {
    return { at: new Date(now).toISOString(), id: newId<ArrivalId>(), list, member: id }
  }

  async carryOut(transaction: Transaction, command: Command, now: number): Promise<CommandOutcome> {
    const before = await transaction.outcome(command.id)
    if (before !== null) return before
    const compared = addressIn(command)
    const [list, member, holder] = await Promise.all([
      transaction.object('list', command.list),
      transaction.member(command.member),
      compared === null ? null : transaction.memberWithAddress(command.list, compared),
    ])
    const decision = decide(
      command,
      { isList: list !== null && !list.isDeleted, member, withAddress: () => holder },
      new Date(now).toISOString(),
    )
    const outcome: CommandOutcome = decision.ok
      ? { id: command.id, ok: true, n: (await this.append(transaction, decision.entry)).newest.n }
      : { id: command.id, ok: false, problem: decision.problem }
    await transaction.keepOutcome(command.id, now, outcome)
    await this.prune(transaction, now)
    return outcome
  }

  async refill(
    transaction: Transaction,
    here: JournalId,
    journal: JournalId,
    entries: readonly Entry[],
  ): Promise<RefillResult> {
    let newest = await transaction.newestEntry()
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
    if (journal !== here) await transaction.keepIdentity(journal)
    for (const { n, ...entry } of entries) {
      const problem = await this.problemOf(transaction, { n, ...entry } as Entry)
      // Thrown, because what was appended before it has to go as well.
      if (problem !== null) throw new RefillProblem(problem)
      newest = (await this.append(transaction, entry as NewEntry, { newest })).newest
    }
    return { ok: true, latest: newest.n }
  }

  async recover(transaction: Transaction, common: number, entries: readonly Entry[], now: number): Promise<Recovered> {
    const ids = await this.idsAfter(transaction, common, now)
    /** People who came back under another id meanwhile. */
    const sameAs = new Map<string, MemberId>()
    let newest = await transaction.newestEntry()
    let taken = 0
    for (const entry of entries) {
      if (ids.has(idOf(entry))) continue
      const again = await this.again(transaction, entry, sameAs)
      if (again === null) continue
      newest = (await this.append(transaction, again, { newest })).newest
      taken += 1
    }
    return { latest: newest.n, taken, left: entries.length - taken }
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
    if (entry.kind === 'member-added') {
      if (holder === null) return entry as NewEntry
      sameAs.set(entry.member, holder.id)
      return null
    }
    const id = sameAs.get(entry.member) ?? entry.member
    const isTaken = entry.kind === 'member-edited' && holder !== null && holder.id !== id
    return isTaken || (await transaction.member(id)) === null ? null : ({ ...entry, member: id } as NewEntry)
  }

  /** What keeps an entry of a copy from following this journal, or null. */
  private async problemOf(
    transaction: Transaction,
    entry: Entry,
  ): Promise<Extract<RefillResult, { ok: false }> | null> {
    const refuse = (code: 'broken-reference' | 'address-twice', message: string) => ({
      ok: false as const,
      code,
      message: `Entry ${entry.n} ${message}.`,
    })
    if ((await transaction.object('list', entry.list)) === null)
      return refuse('broken-reference', `is about the list “${entry.list}”, which is not here`)
    const id = affectedMember(entry)
    if (id === null) return null
    const member = await transaction.member(id)
    if (member === null && entry.kind !== 'arrival' && entry.kind !== 'member-added')
      return refuse('broken-reference', `is about the member “${id}”, who is not here`)
    const email = emailIn(entry)
    const holder = email === null ? null : await transaction.memberWithAddress(entry.list, email.compared)
    return holder !== null && holder.id !== id
      ? refuse('address-twice', `gives a second member the address ${holder.email.compared}`)
      : null
  }

  /**
   * Appends one entry and brings its member up to date.
   *
   * @param newest what the journal ends with, where it was read already
   * @param known the member, where it was looked up already
   * @param now given where it happens now: it then causes mail; history that is taken in does not
   */
  private async append(
    people: PeopleStore,
    appended: NewEntry,
    { newest, known, now, cause }: { newest?: Newest; known?: Member | null; now?: number; cause?: Cause } = {},
  ): Promise<{ newest: Newest; fate: MailFate }> {
    const before = newest ?? (await people.newestEntry())
    const n = before.n + 1
    const entry = salted(appended)
    const numbered = { n, ...entry } as Entry
    const mark = markAfter(before.mark, n, entry)
    await people.append(n, entry, mark)
    const id = affectedMember(numbered)
    let about = known
    if (id !== null) {
      about = applyToMember(known === undefined ? await people.member(id) : known, numbered)
      if (about !== null) await people.keepMember(about)
    }
    const fate =
      now === undefined || about === undefined
        ? 'none'
        : await queueMailsFor(people, entry, about, this.mailOf(entry.list), now, cause)
    return { newest: { n, mark }, fate }
  }

  private async prune(people: PeopleStore, now: number): Promise<void> {
    if (now - this.prunedAt < RETRY_WINDOW_MS) return
    this.prunedAt = now
    const { n } = await people.newestEntry()
    await people.forgetAnswers(this.retries.oldest ?? n + 1, now - OUTCOMES_KEPT_MS)
    if (this.recovering !== null && now - this.recovering.usedAt > RETRY_WINDOW_MS) this.recovering = null
  }
}

/** The address that a command gives somebody, as it is compared; null where it gives none, or one that is no address. */
function addressIn(command: Command): string | null {
  const reading = 'email' in command ? parseEmail(command.email) : null
  return reading?.ok ? reading.email.compared : null
}

/** Undoes a refilling that cannot go on, and says why. */
export class RefillProblem extends Error {
  constructor(readonly result: Extract<RefillResult, { ok: false }>) {
    super(result.message)
  }
}

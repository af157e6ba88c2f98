import type { CommandOutcome } from '#core/api'
import { inboxOf, parseEmail } from '#core/email'
import type { ArrivalId, CommandId, ListId, MemberId } from '#core/ids'
import type { Command, NewEntry } from '#core/journal'
import { decide, isJoining, type Member } from '#core/list'
import { hasSender, type MailSettings } from '#core/mail'
import { countryOf } from '#core/region'
import { verdictOn, type SignUp } from '#core/signup'
import { keepableText } from '#core/text'
import { hasPassed } from '../clock'
import type { Cause } from '../limits'
import { newId } from '../random'
import { type Newest } from '../store'
import { type PeopleStore, RETRY_WINDOW_MS, type SignUpVerdict } from './tables'
import type { Transaction } from '../subjects'
import { appendEntry } from './append'
import { takeMessage } from './message-intake'
import type { Confirmed, SignUpResult } from './people'
import { MAIL, type MailBody, type MailFate, queueExtra, queueFor, queueMailsFor } from '../mail/queued'
import { Retries } from './retries'

const DAY_MS = 86_400_000
/** How long a command's outcome is remembered. Sent again later, its revision or its address tells that it was done. */
const OUTCOMES_KEPT_MS = 30 * 86_400_000

/** Writes the journal: what each piece of work appends follows what the journal ends with in its transaction. */
export class JournalWriter {
  private prunedAt = 0
  private readonly retries = new Retries()

  /** @param mailOf a list's mail as it is sent; null where it sends none */
  constructor(private readonly mailOf: (list: ListId) => MailSettings | null) {}

  /** @param countView counts the view that it comes of; tells whether it was this view's first sign-up */
  async signUp(
    people: PeopleStore,
    signUp: SignUp,
    retryKey: string,
    { now, cause, countView }: { now: number; cause: Cause; countView?: (() => Promise<boolean>) | undefined },
  ): Promise<SignUpResult> {
    const { list } = signUp.version
    const { newest, member } = await people.newestAndMember(list, signUp.email?.compared ?? null)
    const first = await this.retries.first(people, retryKey, newest, now)
    if (first !== null && stillHolds(first.verdict, member)) {
      const { verdict, isMailHeld } = first
      return { verdict, repeated: true, member: member?.id ?? newId(), isMailHeld }
    }
    const mail = this.mailOf(signUp.version.list)
    // A repeat whose sign-up is judged anew brings no second message.
    const written = first === null ? await this.takeMessage(people, signUp, { newest, now, cause }) : newest
    if (!signUp.joins) {
      await this.retries.keep(
        people,
        retryKey,
        { n: written.n, at: now, verdict: 'message-sent', isMailHeld: false },
        written,
      )
      await this.prune(people, now)
      return { verdict: 'message-sent', repeated: false, member: newId(), isMailHeld: false }
    }
    const arrival = verdictOn(signUp, {
      member,
      newMember: newId(),
      newArrival: newId(),
      at: new Date(now).toISOString(),
      mail,
      country: mail?.confirm === 'regions' ? countryOf(signUp.whereabouts) : null,
    })
    const isViewed = isJoining(arrival.verdict) && (await countView?.()) === true
    const entry = isViewed ? { ...arrival, viewed: true as const } : arrival
    const appended = await this.append(people, entry, { newest: written, known: member, now, cause })
    const isMailHeld = appended.fate === 'held'
    const answer = { n: appended.newest.n, at: now, verdict: arrival.verdict, isMailHeld }
    await this.retries.keep(people, retryKey, answer, appended.newest)
    await this.prune(people, now)
    return { verdict: arrival.verdict, repeated: false, member: arrival.member ?? newId(), isMailHeld }
  }

  /** Appends what somebody wrote to the owner, where the form takes messages. Resolves with what the journal ends with. */
  private async takeMessage(
    people: PeopleStore,
    signUp: SignUp,
    { newest, now, cause }: { newest: Newest; now: number; cause: Cause },
  ): Promise<Newest> {
    const { message } = signUp
    if (message === null) return newest
    const isMailed = hasSender(this.mailOf(signUp.version.list))
    const entry = await takeMessage(people, { ...signUp, message }, { n: newest.n + 1, now, cause, isMailed })
    return (await appendEntry(people, entry, newest)).newest
  }

  /** Somebody followed the link of the mail that was sent when the waiting began at `since`. */
  async confirm(
    people: PeopleStore,
    id: MemberId,
    since: string,
    { now, sureNow }: { now: number; sureNow: number },
  ): Promise<Confirmed> {
    const member = await people.member(id)
    if (member === null || member.joinedAt !== since) return 'expired'
    if (member.status === 'confirmed') return 'used'
    if (member.status !== 'waiting') return 'expired'
    const days = this.mailOf(member.list)?.waitingDays
    if (days !== undefined && sureNow > Date.parse(since) + days * DAY_MS) return 'expired'
    await this.append(people, { ...this.itself(member, now), kind: 'member-confirmed' }, { known: member, now })
    return 'confirmed'
  }

  /**
   * Gives somebody who just signed up the address that they meant: the same person, with all that is theirs. What waits for
   * the wrong address is not sent; what they were to get goes to the right one. Where the right address is on the list
   * already, that one stays, and theirs is off it. Null where they acted since.
   */
  async correct(
    transaction: Transaction,
    { member: id, revision, email }: Pick<Member, 'revision' | 'email'> & { member: MemberId },
    { now, cause }: { now: number; cause: Cause },
  ): Promise<{ verdict: 'joined' | 'confirm-first'; isMailHeld: boolean } | 'taken' | null> {
    const member = await transaction.member(id)
    if (member === null || member.revision !== revision) return null
    if (member.status !== 'waiting' && member.status !== 'confirmed') return null
    const was = member.email
    for (const job of await transaction.jobsWithLimitKey(MAIL, inboxOf(was.compared), 100))
      if ((job.body as MailBody).member === id) await transaction.dropJob(job.id)
    if ((await transaction.memberWithAddress(member.list, email.compared)) !== null) {
      const { at, list } = this.itself(member, now)
      const command = newId<CommandId>()
      await this.append(
        transaction,
        { at, list, member: id, command, kind: 'member-removed', isSlip: true },
        { known: member, now },
      )
      return 'taken'
    }
    const verdict = member.status === 'waiting' ? 'confirm-first' : 'joined'
    const { fate } = await this.append(
      transaction,
      { ...this.itself(member, now), kind: 'member-corrected', verdict, personal: { email, was } },
      { known: member, now, cause },
    )
    return { verdict, isMailHeld: fate === 'held' }
  }

  /** Removes a member from the list. No effect on one who is not on it. */
  async leave(people: PeopleStore, id: MemberId, by: 'page' | 'one-click' | 'service', now: number): Promise<boolean> {
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
      (await queueFor(people, member, kind, { now })) || (isExtra && (await queueExtra(people, member, kind, now)))
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

  async carryOut(transaction: Transaction, command: Command, now: number, by?: string): Promise<CommandOutcome> {
    const before = await transaction.outcome(command.id)
    if (before !== null) return before
    const compared = addressIn(command)
    const list = await transaction.object('list', command.list)
    const member = await transaction.member(command.member)
    const holder = compared === null ? null : await transaction.memberWithAddress(command.list, compared)
    const decision = decide(
      command,
      { isList: list !== null && !list.isDeleted, member, withAddress: () => holder },
      new Date(now).toISOString(),
    )
    const outcome: CommandOutcome = decision.ok
      ? { id: command.id, ok: true, n: (await this.append(transaction, signed(decision.entry, by))).newest.n }
      : { id: command.id, ok: false, problem: decision.problem }
    await transaction.keepOutcome(command.id, now, outcome)
    await this.prune(transaction, now)
    return outcome
  }

  private async append(
    people: PeopleStore,
    appended: NewEntry,
    { newest, known, now, cause }: { newest?: Newest; known?: Member | null; now?: number; cause?: Cause } = {},
  ): Promise<{ newest: Newest; fate: MailFate }> {
    const { member } = appended
    const isKnown = known !== undefined && member !== null
    const result = await appendEntry(people, appended, newest, isKnown ? new Map([[member, known]]) : undefined)
    const about = result.member === undefined ? known : result.member
    const fate =
      now === undefined || about === undefined
        ? 'none'
        : await queueMailsFor(
            people,
            { entry: result.entry, member: about, mail: this.mailOf(appended.list) },
            now,
            cause,
          )
    return { newest: result.newest, fate }
  }

  private async prune(people: PeopleStore, now: number): Promise<void> {
    if (!hasPassed(this.prunedAt, RETRY_WINDOW_MS, now)) return
    this.prunedAt = now
    const { n } = await people.newestEntry()
    await people.forgetAnswers(this.retries.oldest ?? n + 1, now - OUTCOMES_KEPT_MS)
  }
}

/**
 * Whether a first answer can be given once more. Within the seconds that a repeat is known by, somebody may have confirmed,
 * left or been taken off: who then signs up again is told what holds, and joins where that means joining.
 */
function stillHolds(verdict: SignUpVerdict, member: Member | null): boolean {
  const status = member?.status ?? null
  switch (verdict) {
    case 'joined':
    case 'already-on-list':
      return status === 'confirmed'
    case 'confirm-first':
    case 'already-waiting':
      return status === 'waiting'
    case 'bot':
    case 'message-sent':
      return true
  }
}

/** The entry with whose key it was made, where that is known. */
function signed(entry: NewEntry, by: string | undefined): NewEntry {
  return by === undefined ? entry : ({ ...entry, by } as NewEntry)
}

/** The address that a command gives somebody, as it is compared; null where it gives none, or one that is no address. */
function addressIn(command: Command): string | null {
  const reading = 'email' in command ? parseEmail(command.email) : null
  return reading?.ok ? reading.email.compared : null
}

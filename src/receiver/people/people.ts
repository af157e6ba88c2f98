import type { CommandOutcome } from '#core/api'
import { inboxOf } from '#core/email'
import type { ListId, MemberId } from '#core/ids'
import type { Command } from '#core/journal'
import type { Member } from '#core/list'
import type { SignUp } from '#core/signup'
import { type Cause, calm } from '../limits'
import type { MailFate } from '../mail/queued'
import { newId } from '../random'
import { type CountedView, countSignUp } from '../results'
import type { Writing } from '../writing'
import type { AboutLimit } from '../work'
import type { AboutSomebody } from './gathering'
import type { JournalWriter } from './journal'
import type { SignUpVerdict } from './tables'
import { eraseKeptLongEnough } from './keeping'
import { commandsToPutBack, wronglyBounced } from './wrongly-bounced'

const DAY_MS = 86_400_000
/** Where a list’s mail was taken away while somebody waited. */
const USUAL_WAITING_DAYS = 7

export interface SignUpResult {
  verdict: SignUpVerdict
  /** True when this was a retry and the answer of the first try is repeated; nothing new was stored. */
  repeated: boolean
  /** Who it is about; an id of nobody for a bot, so that none can be told from another. */
  member: MemberId
  /** Whether the mail that it would have caused was held back; see `MailFate`. */
  isMailHeld: boolean
}

/** Outcome of a confirmation link. */
export type Confirmed = 'confirmed' | 'used' | 'expired'

/** One order of people: everybody's, or of a rehearsal's made-up people. */
export interface PeopleLedger {
  /**
   * Stores one sign-up, in one order with all others.
   *
   * @param retryKey names who sent exactly what
   * @param cause who causes the mail that comes of it; nobody's flood where not given
   * @param view the view that it comes of, counted with it
   */
  signUp(signUp: SignUp, retryKey: string, cause?: Cause, view?: CountedView | null): Promise<SignUpResult>
  member(id: MemberId): Promise<Member | null>
  /** @param since when the waiting began that the link belongs to */
  confirm(id: MemberId, since: string): Promise<Confirmed>
  leave(id: MemberId, by: 'page' | 'one-click' | 'service'): Promise<boolean>
  comeBack(id: MemberId): Promise<boolean>
  /** @param isExtra whether one may go beyond the inbox's share for today */
  sendAgain(id: MemberId, isExtra?: boolean): Promise<MailFate>
  /** Ends somebody's waiting. */
  expire(id: MemberId): Promise<boolean>
}

/** Whom it is about, and by which inbox mail to them is counted; null for a bot that left no address. */
function aboutIn({ version, email }: SignUp): (AboutSomebody & AboutLimit) | null {
  if (email === null) return null
  return { list: version.list, compared: email.compared, limitKey: inboxOf(email.compared) }
}

/** Everybody. */
export interface People extends PeopleLedger {
  /**
   * Carries out each command at most once, however often it is sent; one that is refused stops none of the others.
   *
   * @param by id of the key that they came with
   */
  carryOut(commands: readonly Command[], by?: string): Promise<CommandOutcome[]>
  bounce(id: MemberId, reason: string): Promise<boolean>
  /** Puts right the address of somebody who has done nothing since `revision`; `taken` where it is on the list already. */
  correct(
    of: Pick<Member, 'id' | 'list' | 'revision'>,
    email: Member['email'],
    cause: Cause,
  ): Promise<{ verdict: 'joined' | 'confirm-first'; isMailHeld: boolean } | 'taken' | null>
  /** How many are marked for a refusal that was not about their address. */
  countWronglyBounced(): Promise<number>
  /** Puts those back to what they were, and sends the confirmation again to who waited; resolves with how many. */
  putBackWronglyBounced(): Promise<number>
  /** Puts some back who were marked last of all that happened to them. Their refused mail is tried again by whoever asks. */
  putBackBounced(members: readonly MemberId[]): Promise<number>
  /** Removes those who did not confirm within their list's days; resolves with how many. */
  expireWaiting(): Promise<number>
  /** Has those erased whom their lists keep no longer; resolves with how many. */
  eraseKeptLongEnough(): Promise<number>
  /** Whether somebody is among the first so many of a list. */
  isAmongFirst(member: Member, many: number): Promise<boolean>
  /** Who joined a list on a day (UTC, ISO 8601) and is on it now. */
  joinedOn(list: string, day: string): Promise<Member[]>
}

export function openPeople({ engine, run, now, sureNow, published }: Writing, journal: JournalWriter): People {
  const waitingDaysOf = (list: ListId) => published.mail(list)?.waitingDays ?? USUAL_WAITING_DAYS
  let wronglyAt = { n: -1, members: [] as Member[] }

  /** Looked for again when something happened meanwhile. */
  async function wrongly(): Promise<Member[]> {
    const { n } = await engine.now.newestEntry()
    if (wronglyAt.n !== n)
      wronglyAt = { n, members: await wronglyBounced(await engine.now.bounces(), (id) => engine.now.member(id)) }
    return wronglyAt.members
  }

  /** To what they were before the mark. @param asksAgain whether who had yet to confirm gets that mail once more */
  async function putBack(marked: readonly Member[], asksAgain: boolean): Promise<number> {
    const commands = await commandsToPutBack(
      marked,
      async (after, limit) => (await engine.now.entriesAfter(after, limit)).map(({ entry }) => entry),
      newId,
    )
    let count = 0
    for (const command of commands) {
      const isBack = await run(async (transaction) => {
        const { ok } = await journal.carryOut(transaction, command, now())
        if (ok && asksAgain && command.kind === 'restore-member' && command.status === 'waiting')
          await journal.sendAgain(transaction, command.member, now())
        return ok
      })
      if (isBack) count += 1
    }
    return count
  }

  return {
    signUp: (signUp, retryKey, cause = calm, view = null) =>
      run((transaction) => {
        const at = now()
        const countView = view === null ? undefined : () => countSignUp(transaction, view, at)
        return journal.signUp(transaction, signUp, retryKey, { now: at, cause, countView })
      }, aboutIn(signUp)),
    member: (id) => engine.now.member(id),
    confirm: (id, since) =>
      run((transaction) => journal.confirm(transaction, id, since, { now: now(), sureNow: sureNow() })),
    leave: (id, by) => run((transaction) => journal.leave(transaction, id, by, now())),
    comeBack: (id) => run((transaction) => journal.comeBack(transaction, id, now())),
    sendAgain: (id, isExtra) => run((transaction) => journal.sendAgain(transaction, id, now(), isExtra)),
    expire: (id) => run((transaction) => journal.expire(transaction, id, now())),
    bounce: (id, reason) => run((transaction) => journal.bounce(transaction, id, reason, now())),
    correct: ({ id, list, revision }, email, cause) =>
      run((transaction) => journal.correct(transaction, { member: id, revision, email }, { now: now(), cause }), {
        ...{ list, compared: email.compared },
        limitKey: inboxOf(email.compared),
      }),
    carryOut: (commands, by) =>
      Promise.all(commands.map((command) => run((transaction) => journal.carryOut(transaction, command, now(), by)))),
    countWronglyBounced: async () => (await wrongly()).length,
    putBackWronglyBounced: async () => putBack(await wrongly(), true),
    async putBackBounced(ids) {
      const members = await Promise.all(ids.map((id) => engine.now.member(id)))
      return putBack(members.filter((member) => member?.status === 'bounced') as Member[], false)
    },
    async expireWaiting() {
      let expired = 0
      for (const list of await engine.now.listsWithWaiting()) {
        for (const id of await engine.now.waitingSince(list, sureNow() - waitingDaysOf(list) * DAY_MS)) {
          if (await run((transaction) => journal.expire(transaction, id, now()))) expired += 1
        }
      }
      return expired
    },
    eraseKeptLongEnough: () => eraseKeptLongEnough(engine.now, run, sureNow()),
    // A made-up member would be the next.
    isAmongFirst: async ({ id, list }, many) =>
      ((await engine.now.rankOf(id)) ?? (await engine.now.highestRank(list)) + 1) <= many,
    joinedOn: (list, day) => engine.now.membersJoinedOn(list, day),
  }
}

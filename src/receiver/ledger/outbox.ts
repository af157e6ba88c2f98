import type { MemberId } from '#core/ids'
import { keepableText } from '#core/text'
import type { Engine, MailState, QueuedMail, Transaction } from '../store/engine'

/** What became of one try to send a mail. */
export type Tried =
  | { state: 'sent'; said: string }
  /** For good. Where it is the address that takes no mail, its member is marked. */
  | { state: 'refused'; said: string; isAddress: boolean }
  | { state: 'later'; said: string; due: number }
  /** It is not needed any more. */
  | { state: 'dropped'; said: string }

/** Mail on its way, durable: every promise resolves after its change is on disk. */
export interface Outbox {
  due(limit: number): QueuedMail[]
  nextDue(): number | null
  /** Takes a mail in hand, so that it is known after a crash that it may have been sent. False when another has it. */
  take(id: string): Promise<boolean>
  settle(id: string, tried: Tried): Promise<void>
  /** Adds a mail that no entry causes. */
  queue(mail: QueuedMail): Promise<boolean>
  /** Puts back what a process that ended had in hand. */
  putBack(): Promise<number>
  /** Has all that wait for their next try tried at once, as if for the first time. */
  hurry(): Promise<void>
  /** Tries one that was refused, or that waits for its next try, now. */
  tryAgain(id: string): Promise<boolean>
  mail(id: string): QueuedMail | null
  inState(state: MailState, limit: number): QueuedMail[]
  ofSpace(space: string): QueuedMail[]
  count(state: MailState): number
  /** How many were sent since a time, by the second in which they were, in milliseconds since 1970. */
  sentSince(time: number): { at: number; count: number }[]
  settings(): string | null
  keepSettings(json: string): Promise<void>
}

/** How long mails that were sent or given up are listed. */
const LISTED_MS = 30 * 86_400_000

export function openOutbox(
  engine: Engine,
  run: <T>(work: (transaction: Transaction) => T) => Promise<T>,
  now: () => number,
  bounce: (transaction: Transaction, member: MemberId, reason: string) => void,
): Outbox {
  let prunedAt = 0
  const change = (id: string, with_: (mail: QueuedMail) => Partial<QueuedMail> | null) =>
    engine.run((transaction) => {
      const mail = transaction.mail(id)
      const changes = mail === null ? null : with_(mail)
      if (mail === null || changes === null) return false
      transaction.keepMail({ ...mail, ...changes })
      return true
    })
  return {
    due: (limit) => engine.now.dueMails(now(), limit),
    nextDue: () => engine.now.nextMailDue(),
    take: (id) =>
      change(id, ({ state, attempts }) => (state === 'waiting' ? { state: 'sending', attempts: attempts + 1 } : null)),
    async settle(id, tried) {
      await run((transaction) => {
        const mail = transaction.mail(id)
        if (mail === null) return
        const said = keepableText(tried.said, 500)
        if (tried.state === 'later') transaction.keepMail({ ...mail, state: 'waiting', due: tried.due, said })
        // From here on `due` is when it came to its end, by which the lists are ordered.
        else
          transaction.keepMail({
            ...mail,
            state: tried.state,
            due: now(),
            said,
            sent: tried.state === 'sent' ? now() : 0,
          })
        if (
          tried.state === 'refused' &&
          tried.isAddress &&
          mail.space === '' &&
          mail.member !== '' &&
          mail.kind !== 'notice'
        )
          bounce(transaction, mail.member, said)
        if (now() - prunedAt > 3_600_000) {
          prunedAt = now()
          transaction.forgetMails(now() - LISTED_MS)
        }
      })
    },
    queue: (mail) => run((transaction) => transaction.queueMail(mail)),
    putBack: () =>
      engine.run((transaction) => {
        const inHand = transaction.mailsInHand()
        for (const mail of inHand) transaction.keepMail({ ...mail, state: 'waiting' })
        return inHand.length
      }),
    hurry: () => engine.run((transaction) => transaction.hurryMails(now())),
    tryAgain: (id) =>
      change(id, ({ state }) =>
        state === 'refused' || state === 'waiting' || state === 'dropped'
          ? { state: 'waiting', due: now(), attempts: 0 }
          : null,
      ),
    mail: (id) => engine.now.mail(id),
    inState: (state, limit) => engine.now.mailsInState(state, limit),
    ofSpace: (space) => engine.now.mailsOfSpace(space),
    count: (state) => engine.now.countMails(state),
    sentSince: (time) => engine.now.mailsSentSince(time),
    settings: () => engine.now.outboxSettings(),
    keepSettings: (json) => engine.run((transaction) => transaction.keepOutboxSettings(json)),
  }
}

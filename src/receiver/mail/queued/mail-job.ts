import { type EmailAddress, inboxOf } from '#core/email'
import type { Member } from '#core/list'
import type { ListId, MemberId, SendingId } from '#core/ids'
import type { MailKind } from '#core/mail'
import { newOrderedId } from '../../random'
import type { Queue } from '../../work'
import { type Job, openJob } from '../../work/tables'

/** The worker of the queue that sends mail. */
export const MAIL = 'mail'

/** Body of a mail job; the mail is composed when it is sent. */
export interface MailBody {
  list: ListId
  /** Empty for mails about nobody, such as the owner's daily notice. */
  member: MemberId | ''
  kind: MailKind
  /** The address as it was typed, and as it is compared. */
  recipient: Pick<EmailAddress, 'typed' | 'compared'>
  /** Of a letter, its going out. */
  sending?: SendingId
  /** Of a message to the owner, the number of its entry. */
  entry?: number
}

/** `sending` is in somebody's hand. */
export type QueuedMailState = 'waiting' | 'sending' | 'sent' | 'refused' | 'dropped'

/** One mail of the queue, with what became of it. Times in milliseconds since 1970. */
export interface QueuedMail {
  id: string
  /** A rehearsal's code; empty for real people. */
  space: string
  list: ListId
  member: MemberId | ''
  kind: MailKind
  recipient: string
  compared: string
  /** Where it arrives, as far as the address tells: see `inboxOf`. */
  inbox: string
  queued: number
  due: number
  state: QueuedMailState
  attempts: number
  said: string
  /** 0 until it was. */
  sent: number
  sending?: SendingId
  entry?: number
}

/** A mail to be queued: counted by the inbox that it goes to. */
export function mailJob(
  { list, member, kind, recipient, sending, entry }: MailBody,
  now: number,
  changes: Partial<Job> = {},
): Job {
  const { typed, compared } = recipient
  const body = {
    ...{ list, member, kind, recipient: { typed, compared } },
    ...(sending !== undefined && { sending }),
    ...(entry !== undefined && { entry }),
  } satisfies MailBody
  return openJob({ id: newOrderedId(now), worker: MAIL, limitKey: inboxOf(compared), body, ...changes }, now)
}

export function mailOf({ id, space, limitKey, queued, due, holder, state, attempts, said, body }: Job): QueuedMail {
  const { list, member, kind, recipient, sending, entry } = body as MailBody
  return {
    id,
    space,
    list,
    member,
    kind,
    recipient: recipient.typed,
    compared: recipient.compared,
    inbox: limitKey,
    queued,
    due,
    state: state === 'open' ? (holder === '' ? 'waiting' : 'sending') : state === 'done' ? 'sent' : state,
    attempts,
    said,
    sent: state === 'done' ? due : 0,
    ...(sending !== undefined && { sending }),
    ...(entry !== undefined && { entry }),
  }
}

/** Mails to one member, newest first, as far as they went to the inbox that the member has now. */
export async function mailsToMember(queue: Queue, { id, email }: Member, limit: number): Promise<QueuedMail[]> {
  const jobs = await queue.withLimitKey(MAIL, inboxOf(email.compared), limit)
  return jobs.map(mailOf).filter(({ member }) => member === id)
}

/** Newest first, those of real people. */
export async function mailsInState(queue: Queue, state: QueuedMailState, limit: number): Promise<QueuedMail[]> {
  const isOpen = state === 'waiting' || state === 'sending'
  const jobs = await queue.inState(MAIL, isOpen ? 'open' : state === 'sent' ? 'done' : state, limit)
  return jobs.map(mailOf).filter((mail) => mail.state === state)
}

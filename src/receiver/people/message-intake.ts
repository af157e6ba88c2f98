import { createHash } from 'node:crypto'
import { inboxOf, parseEmail } from '#core/email'
import { messagesOf } from '#core/form'
import type { ArrivalId } from '#core/ids'
import type { SentMessage, HeldReason, NewEntry } from '#core/journal'
import { ALIKE_DAYS, alikeAs, messageEntry, MOST_ALIKE, type SignUp, type Written } from '#core/signup'
import type { Cause } from '../limits'
import { mailJob } from '../mail/queued'
import { newId } from '../random'
import type { PeopleStore } from './tables'

const DAY_MS = 86_400_000
const HOUR_MS = 3_600_000
/** To one inbox of an owner's: what comes beyond is held, and read under the form. */
const MOST_AN_HOUR = 60

/** What a text is stored as to be known again: nobody can tell the text from it. */
export function alikeKey(written: Written, compared: string): string {
  return createHash('sha256').update(alikeAs(written, compared)).digest('base64url').slice(0, 22)
}

/**
 * The entry of a message that comes in, with the mail to the owner queued that it causes.
 *
 * @param n the number that the entry will have
 * @param isMailed whether its list has a sender that mail goes out from
 */
export async function takeMessage(
  people: PeopleStore,
  signUp: SignUp & { message: Written },
  { n, now, cause, isMailed }: { n: number; now: number; cause: Cause; isMailed: boolean },
): Promise<NewEntry & { kind: 'message' }> {
  const compared = signUp.email?.compared ?? ''
  const alike = await people.countAlike(alikeKey(signUp.message, compared), now - ALIKE_DAYS * DAY_MS)
  const held: HeldReason | null = cause.isFlood ? 'flood' : alike >= MOST_ALIKE ? 'alike' : null
  const entryWith = (held: HeldReason | null) =>
    messageEntry(signUp, { id: newId<ArrivalId>(), at: new Date(now).toISOString(), held })
  const entry = entryWith(held)
  if (entry.held !== undefined || !isMailed) return entry
  const to = signUp.messagesTo ?? messagesOf(signUp.version.content).to
  const isSent = await queueMessage(people, { entry: { n, ...entry }, to, now, priority: cause.turn }, true)
  return isSent ? entry : entryWith('flood')
}

/** Queues the mail that takes a message to its owner; false beyond an inbox's share. One to nowhere is sent nowhere. */
export async function queueMessage(
  people: Pick<PeopleStore, 'queue'>,
  {
    entry,
    to,
    now,
    priority = 1,
  }: { entry: Pick<SentMessage, 'n' | 'list'>; to: string; now: number; priority?: number },
  isLimited = false,
): Promise<boolean> {
  const owner = parseEmail(to)
  if (!owner.ok) return true
  const body = { list: entry.list, member: '', kind: 'message', recipient: owner.email, entry: entry.n } as const
  const limitKey = `message ${inboxOf(owner.email.compared)}`
  const most = { count: MOST_AN_HOUR, since: now - HOUR_MS }
  return people.queue(mailJob(body, now, { limitKey, priority }), isLimited ? most : undefined)
}

import { createHash } from 'node:crypto'
import { inboxOf } from '#core/email'
import type { NewEntry } from '#core/journal'
import type { Member } from '#core/list'
import { type CausedMail, type MailKind, mailsCausedBy, type MailSettings, MOST_MAILS_A_DAY } from '#core/mail'
import { calm, type Cause } from '../../limits'
import { mailJob } from './mail-job'
import { newOrderedId } from '../../random'
import { type Job, LATER } from '../../work/tables'
import type { PeopleStore } from '../../people/tables'

const DAY_MS = 86_400_000

/** Result of queueing an awaited mail: `held` beyond the share of its inbox, or in a flood. */
export type MailFate = 'queued' | 'held' | 'none'

/** Queues the mail that an entry causes, with it. */
export async function queueMailsFor(
  people: PeopleStore,
  { entry, member, mail }: { entry: NewEntry; member: Member | null; mail: MailSettings | null },
  now: number,
  { turn, isFlood }: Cause = calm,
): Promise<MailFate> {
  if (mail === null || member === null) return 'none'
  const { mails, awaited, isHeld } = mailsCausedBy(entry, mail, now, isFlood)
  let fate: MailFate = awaited === null ? 'none' : 'held'
  for (const one of mails) {
    const isQueued = await queueOne(people, member, one, { now, priority: one.isLater ? LATER : turn })
    if (one.kind === awaited && isQueued && !isHeld) fate = 'queued'
  }
  return fate
}

/** One mail to a member, unless the inbox got its share for today. */
export function queueFor(
  people: PeopleStore,
  member: Member,
  kind: MailKind,
  { now, priority = 1 }: { now: number; priority?: number },
): Promise<boolean> {
  const mail: CausedMail = { kind, to: { member: true }, isLater: false, due: now, once: null }
  return queueOne(people, member, mail, { now, priority })
}

/**
 * One mail beyond an inbox's share: one a day to its own spelling, and one to all other spellings of it. False where
 * today's went already.
 */
export function queueExtra(people: PeopleStore, member: Member, kind: MailKind, now: number): Promise<boolean> {
  const { compared } = member.email
  const inbox = inboxOf(compared)
  const digest = createHash('sha256').update(inbox).digest('hex').slice(0, 32)
  const id = `extra-${inbox === compared ? 'own' : 'other'}-${Math.floor(now / DAY_MS)}-${digest}`
  return people.queue(jobFor(member, kind, now, { id }))
}

function queueOne(
  people: PeopleStore,
  member: Member,
  { kind, to, due, once }: CausedMail,
  { now, priority }: { now: number; priority: number },
): Promise<boolean> {
  if (to.member)
    return people.queue(jobFor(member, kind, now, { priority, due }), {
      count: MOST_MAILS_A_DAY,
      since: now - DAY_MS,
    })
  const recipient = { typed: to.address, compared: to.address.toLowerCase() }
  const about = once === null ? member.id : ''
  return people.queue(
    mailJob({ list: member.list, member: about, kind, recipient }, now, {
      priority,
      due,
      ...(once !== null && { id: once }),
    }),
  )
}

function jobFor({ id: member, list, email }: Member, kind: MailKind, now: number, changes: Partial<Job>): Job {
  return mailJob({ list, member, kind, recipient: email }, now, { id: newOrderedId(now), ...changes })
}

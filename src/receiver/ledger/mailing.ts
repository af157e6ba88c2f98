import { createHash } from 'node:crypto'
import { type EmailAddress, inboxOf } from '#core/email'
import type { ListId, MemberId } from '#core/ids'
import type { NewEntry } from '#core/journal'
import type { Member } from '#core/list'
import { type MailKind, type MailSettings } from '#core/mail'
import { calm, type Cause } from '../limits'
import { newOrderedId } from '../random'
import { LATER_TURN, type People, type QueuedMail } from '../store/engine'

const DAY_MS = 86_400_000
/** To one inbox in a day, whoever asks for it: strangers may type it into any form, and in many spellings. */
export const MOST_MAILS_A_DAY = 5

/** What became of the mail that somebody waits for: `held` where the inbox had its share, or whoever caused it floods. */
export type MailFate = 'queued' | 'held' | 'none'

/** The mail that an entry causes, queued with it. */
export function queueMailsFor(
  people: People,
  entry: NewEntry,
  member: Member | null,
  mail: MailSettings | null,
  now: number,
  { turn, isFlood }: Cause = calm,
): MailFate {
  if (mail === null || member === null) return 'none'
  const queue = (kind: MailKind, at: { turn?: number; due?: number } = {}): MailFate =>
    queueFor(people, member, kind, now, { turn, ...at }) ? 'queued' : 'held'
  switch (entry.kind) {
    case 'arrival':
      if (entry.verdict === 'confirm-first') {
        if (mail.messages.reminder.isOn)
          queue('reminder', { turn: LATER_TURN, due: now + (mail.waitingDays * DAY_MS) / 2 })
        return isFlood ? 'held' : queue('confirmation')
      }
      if (entry.verdict === 'already-waiting') return isFlood ? 'held' : queue('confirmation')
      if (entry.verdict === 'already-on-list' && mail.isDiscreet) return isFlood ? 'held' : queue('already-there')
      if (entry.verdict === 'joined') welcome()
      return 'none'
    case 'member-confirmed':
      welcome()
      return 'none'
    case 'member-left':
      if (mail.messages.leaving.isOn) queue('leaving')
      return 'none'
    default:
      return 'none'
  }

  function welcome(): void {
    if (mail!.messages.welcome.isOn) queue('welcome', isFlood ? { turn: LATER_TURN } : {})
    const { when, address } = mail!.notice
    if (when === 'each')
      people.queueMail(newMail(member!.list, member!.id, 'notice', addressOf(address), now, { turn: LATER_TURN }))
    if (when === 'daily') {
      const day = Math.floor(now / DAY_MS)
      const due = (day + 1) * DAY_MS
      // One a day: the first who joins queues it, and who joins later finds it queued.
      people.queueMail({
        ...newMail(member!.list, '', 'daily-notice', addressOf(address), now, { turn: LATER_TURN, due }),
        id: `daily-${member!.list}-${day}`,
      })
    }
  }
}

/** One mail to a member, unless the inbox got its share for today. */
export function queueFor(
  people: People,
  member: Member,
  kind: MailKind,
  now: number,
  at: { turn?: number; due?: number } = {},
): boolean {
  const most = { count: MOST_MAILS_A_DAY, since: now - DAY_MS }
  return people.queueMail(newMail(member.list, member.id, kind, member.email, now, at), most)
}

/**
 * One mail beyond an inbox's share: one a day to its own spelling, and one to all other spellings of it. False where
 * today's went already.
 */
export function queueExtra(people: People, member: Member, kind: MailKind, now: number): boolean {
  const mail = newMail(member.list, member.id, kind, member.email, now)
  const digest = createHash('sha256').update(mail.inbox).digest('hex').slice(0, 32)
  const spelling = mail.inbox === mail.compared ? 'own' : 'other'
  return people.queueMail({ ...mail, id: `extra-${spelling}-${Math.floor(now / DAY_MS)}-${digest}` })
}

function newMail(
  list: ListId,
  member: MemberId | '',
  kind: MailKind,
  { typed, compared }: Pick<EmailAddress, 'typed' | 'compared'>,
  now: number,
  { turn = 1, due = now }: { turn?: number; due?: number } = {},
): QueuedMail {
  return {
    id: newOrderedId(now),
    space: '',
    list,
    member,
    kind,
    recipient: typed,
    compared,
    inbox: inboxOf(compared),
    turn,
    queued: now,
    due,
    state: 'waiting',
    attempts: 0,
    said: '',
    sent: 0,
  }
}

function addressOf(text: string) {
  return { typed: text.trim(), compared: text.trim().toLowerCase() }
}

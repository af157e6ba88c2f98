import type { EmailAddress } from '#core/email'
import type { ListId, MemberId } from '#core/ids'
import type { NewEntry } from '#core/journal'
import type { Member } from '#core/list'
import { type MailKind, type MailSettings } from '#core/mail'
import { newOrderedId } from '../random'
import type { People, QueuedMail } from '../store/engine'

const DAY_MS = 86_400_000
/** To one address in a day, whoever asks for it: strangers may type it into any form. */
export const MOST_MAILS_A_DAY = 5

/** The mail that an entry causes, queued with it. */
export function queueMailsFor(
  people: People,
  entry: NewEntry,
  member: Member | null,
  mail: MailSettings | null,
  now: number,
): void {
  if (mail === null || member === null) return
  const queue = (kind: MailKind, due = now) => queueFor(people, member, kind, now, due)
  switch (entry.kind) {
    case 'arrival':
      if (entry.verdict === 'confirm-first') {
        queue('confirmation')
        if (mail.messages.reminder.isOn) queue('reminder', now + (mail.waitingDays * DAY_MS) / 2)
      } else if (entry.verdict === 'already-waiting') queue('confirmation')
      else if (entry.verdict === 'already-on-list' && mail.isDiscreet) queue('already-there')
      else if (entry.verdict === 'joined') welcome()
      break
    case 'member-confirmed':
      welcome()
      break
    case 'member-left':
      if (mail.messages.leaving.isOn) queue('leaving')
      break
  }

  function welcome(): void {
    if (mail!.messages.welcome.isOn) queue('welcome')
    const { when, address } = mail!.notice
    if (when === 'each') people.queueMail(newMail(member!.list, member!.id, 'notice', addressOf(address), now))
    if (when === 'daily') {
      const day = Math.floor(now / DAY_MS)
      // One a day: the first who joins queues it, and who joins later finds it queued.
      people.queueMail({
        ...newMail(member!.list, '', 'daily-notice', addressOf(address), now, (day + 1) * DAY_MS),
        id: `daily-${member!.list}-${day}`,
      })
    }
  }
}

/** One mail to a member, unless the address got its share for today. */
export function queueFor(people: People, member: Member, kind: MailKind, now: number, due = now): boolean {
  const most = { count: MOST_MAILS_A_DAY, since: now - DAY_MS }
  return people.queueMail(newMail(member.list, member.id, kind, member.email, now, due), most)
}

function newMail(
  list: ListId,
  member: MemberId | '',
  kind: MailKind,
  { typed, compared }: Pick<EmailAddress, 'typed' | 'compared'>,
  now: number,
  due = now,
): QueuedMail {
  return {
    id: newOrderedId(now),
    space: '',
    list,
    member,
    kind,
    recipient: typed,
    compared,
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

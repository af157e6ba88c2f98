import type { NewEntry } from '#core/journal'
import type { MailKind, MailSettings } from './mail'

const DAY_MS = 86_400_000
/** To one inbox in a day, whoever asks for it: strangers may type it into any form, and in many spellings. */
export const MOST_MAILS_A_DAY = 5

/** A mail that is to be sent because of something that happened. */
export interface CausedMail {
  kind: MailKind
  /** To whom: the member, or an address of the owner's. */
  to: { member: true } | { member: false; address: string }
  /** Whether nobody waits for it: it goes after everything else. */
  isLater: boolean
  /** Milliseconds since 1970. */
  due: number
  /** Of mails with the same name only the first is sent. */
  once: string | null
}

/** What an entry causes: mails, and what becomes of the one that the person waits for. */
export interface Caused {
  mails: CausedMail[]
  /** The kind that somebody waits for now; null where nobody does. */
  awaited: MailKind | null
  /** That one is not sent, because whoever causes it floods. */
  isHeld: boolean
}

/**
 * Who gets which mail.
 *
 * @param mail the list's mail as it is sent
 * @param now milliseconds since 1970
 * @param isFlood whether whoever causes it causes too many: no more mail goes without a press of the person
 */
export function mailsCausedBy(entry: NewEntry, mail: MailSettings, now: number, isFlood: boolean): Caused {
  const toMember = (kind: MailKind, changes: Partial<CausedMail> = {}): CausedMail => ({
    kind,
    to: { member: true },
    isLater: false,
    due: now,
    once: null,
    ...changes,
  })
  const none: Caused = { mails: [], awaited: null, isHeld: false }
  const awaited = (kind: MailKind, ...others: CausedMail[]): Caused => ({
    mails: isFlood ? others : [...others, toMember(kind)],
    awaited: kind,
    isHeld: isFlood,
  })
  switch (entry.kind) {
    case 'member-corrected':
      return entry.verdict === 'joined' ? { ...none, mails: welcome() } : asksToConfirm()
    case 'arrival':
      if (entry.verdict === 'confirm-first') return asksToConfirm()
      if (entry.verdict === 'already-waiting') return awaited('confirmation')
      if (entry.verdict === 'already-on-list' && mail.isDiscreet) return awaited('already-there')
      return entry.verdict === 'joined' ? { ...none, mails: welcome() } : none
    case 'member-confirmed':
      return { ...none, mails: welcome() }
    case 'member-left':
      return { ...none, mails: mail.messages.leaving.isOn ? [toMember('leaving')] : [] }
    default:
      return none
  }

  function asksToConfirm(): Caused {
    const halfway = now + (mail.waitingDays * DAY_MS) / 2
    const reminder = toMember('reminder', { isLater: true, due: halfway })
    return awaited('confirmation', ...(mail.messages.reminder.isOn ? [reminder] : []))
  }

  function welcome(): CausedMail[] {
    const { when, address } = mail.notice
    const toOwner = { to: { member: false, address: address.trim() }, isLater: true } as const
    const tomorrow = (Math.floor(now / DAY_MS) + 1) * DAY_MS
    return [
      ...(mail.messages.welcome.isOn ? [toMember('welcome', { isLater: isFlood })] : []),
      ...(when === 'each' ? [toMember('notice', toOwner)] : []),
      // One a day: the first who joins queues it, and who joins later finds it queued.
      ...(when === 'daily'
        ? [
            toMember('daily-notice', {
              ...toOwner,
              due: tomorrow,
              once: `daily-${entry.list}-${tomorrow / DAY_MS - 1}`,
            }),
          ]
        : []),
    ]
  }
}

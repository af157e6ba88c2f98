import type { SmtpServer } from '#core/api'
import { randomInt } from 'node:crypto'
import type { List } from '#core/list'
import type { MailSettings } from '#core/mail'
import { type ComposedMail, envelopeOf } from './compose'
import type { MailServerSettings, KeptInbox } from './settings'

/*
 * The one thing that nothing here can see: whether mail really arrives. A code is sent as a list's mail is sent, read in
 * an inbox of the owner's own, and typed in.
 */

/** A code may be mistyped, but not guessed: one in a million each. */
const MOST_WRONG = 5
const LASTS_MS = 24 * 3_600_000

export function newCode(): string {
  return String(randomInt(0, 1_000_000)).padStart(6, '0')
}

export function codeMail(
  settings: MailSettings,
  list: Pick<List, 'name'>,
  named: { id: string; to: string },
  code: string,
): ComposedMail {
  return {
    ...envelopeOf(settings, list, named),
    subject: `${code} is your code`,
    text: [
      `The code is ${code}.`,
      `Type it in at Ask Box: it shows that mail of “${list.name}” arrives in this inbox.`,
      'Did it land among the spam? Then so will the mail to your readers: ask the name servers about your sender, at the Mail station.',
    ].join('\n\n'),
    headers: { 'Auto-Submitted': 'auto-generated' },
  }
}

/** Subject of a proof of delivery: the visible sender and the sending server. */
export function throughOf(settings: MailSettings, server: SmtpServer): string {
  return [settings.senderAddress.trim(), settings.bounceAddress.trim(), server.host].join(' ')
}

/** The code as typed, with spaces or hyphens among its digits. */
export function typedIn(
  { ownInboxes }: Pick<MailServerSettings, 'ownInboxes'>,
  list: string,
  typed: string,
  now: number,
): { ownInboxes: KeptInbox[]; outcome: 'arrived' | 'wrong' | 'none' } {
  const waits = ownInboxes.find((one) => one.list === list)
  if (waits === undefined || now - waits.sentAt > LASTS_MS || waits.wrongTries >= MOST_WRONG)
    return { ownInboxes, outcome: 'none' }
  const isRight = typed.replaceAll(/[^0-9]/g, '') === waits.code
  const changed = isRight ? { ...waits, arrivedAt: now } : { ...waits, wrongTries: waits.wrongTries + 1 }
  return {
    ownInboxes: ownInboxes.map((one) => (one === waits ? changed : one)),
    outcome: isRight ? 'arrived' : 'wrong',
  }
}

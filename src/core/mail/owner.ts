import { parseEmail } from '#core/email'
import type { MailSettings } from './mail'

/** Whether a list's mail has a sender, without which nothing goes out: not what visitors write to the owner either. */
export function hasSender(mail: Pick<MailSettings, 'senderAddress'> | null): boolean {
  return mail !== null && parseEmail(mail.senderAddress).ok
}

/** The owner's own address, as far as a list's mail tells it; empty where it does not. */
export function ownersAddress(mail: MailSettings | null): string {
  const told = mail === null ? [] : [mail.notice.address, mail.replyTo, mail.senderAddress]
  return told.find((address) => parseEmail(address).ok)?.trim() ?? ''
}

import { parseEmail } from '#core/email'
import type { MailSettings } from './mail'

/** The owner's own address, as far as a list's mail tells it; empty where it does not. */
export function ownersAddress(mail: MailSettings | null): string {
  const told = mail === null ? [] : [mail.notice.address, mail.replyTo, mail.senderAddress]
  return told.find((address) => parseEmail(address).ok)?.trim() ?? ''
}

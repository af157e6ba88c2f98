import PostalMime from 'postal-mime'
import { parseEmail } from '#core/email'
import { causeOf } from '#core/mail'
import { keepableText } from '#core/text'
import { type Ledger } from '../ledger'
import { MAIL, mailOf, type QueuedMail } from './queued'

export type ReportReading =
  { ok: true; recipient: string; status: string; isForGood: boolean; member: boolean } | { ok: false; message: string }

/** Longest report that is read, in bytes: they quote at most the mail that they are about. */
export const MAX_REPORT_BYTES = 1024 * 1024

/** What a report quotes of the mail that it is about. */
const quotedIn = (parts: readonly { type: string; text: string }[]) =>
  parts.find(({ type }) => type === 'text/rfc822-headers' || type === 'message/rfc822')?.text ?? ''

/** The mail of ours that a report quotes by its `Message-ID`; null for none. */
async function mailQuoted(ledger: Ledger, quoted: string): Promise<QueuedMail | null> {
  const messageId = /^Message-ID:\s*<([^@>\s]{1,80})@/im.exec(quoted)?.[1]
  const job = messageId === undefined ? null : await ledger.queue.job(messageId)
  return job?.worker === MAIL ? mailOf(job) : null
}

/**
 * Takes in a complaint (RFC 5965): somebody called a mail of ours spam. They are taken off the list, and the letter that it
 * was says so. It counts only with the `Message-ID` of a mail of ours.
 */
async function takeComplaint(ledger: Ledger, parts: readonly { type: string; text: string }[]): Promise<ReportReading> {
  const ours = await mailQuoted(ledger, quotedIn(parts))
  if (ours === null || ours.member === '' || ours.kind === 'notice')
    return { ok: false, message: 'The complaint is about no mail that was sent from here.' }
  if (ours.sending !== undefined) await ledger.letters.reported(ours.sending, ours.member, 'complained')
  const member = await ledger.leave(ours.member, 'one-click')
  return { ok: true, recipient: ours.recipient, status: 'complaint', isForGood: true, member }
}

/**
 * Takes in a delivery report (RFC 3464) that was forwarded here, and marks the member that it is about as bounced when
 * it says that delivery failed for good. A report counts only with the `Message-ID` of a mail of ours to that recipient,
 * so nobody can have others' addresses marked.
 */
export async function takeReport(ledger: Ledger, bytes: Uint8Array): Promise<ReportReading> {
  const mail = await PostalMime.parse(bytes, { attachmentEncoding: 'utf8', forceRfc822Attachments: true })
  const parts = mail.attachments.map(({ mimeType, content }) => ({
    type: mimeType.toLowerCase(),
    text: String(content),
  }))
  if (parts.some(({ type }) => type === 'message/feedback-report')) return takeComplaint(ledger, parts)
  const status = parts.find(({ type }) => type === 'message/delivery-status')
  if (status === undefined)
    return {
      ok: false,
      message: 'This mail is no delivery report: it has no part of the type message/delivery-status.',
    }
  const field = (name: string) => new RegExp(`^${name}:[ \\t]*(.*)$`, 'im').exec(status.text)?.[1]?.trim() ?? ''
  const recipient = (field('Final-Recipient') || field('Original-Recipient')).replace(/^[^;]*;/, '').trim()
  const ours = await mailQuoted(ledger, quotedIn(parts))
  const parsed = parseEmail(recipient)
  if (ours === null || !parsed.ok || parsed.email.compared !== ours.compared)
    return { ok: false, message: 'The report is about no mail that was sent from here.' }
  const code = field('Status')
  // A report tells of the recipient, but what refused it may have refused us (RFC 3463).
  const cause = causeOf({ code: code.startsWith('5') ? 550 : 450, stage: 'recipient', text: code })
  const isForGood = /^failed$/i.test(field('Action')) && cause === 'person'
  const said = keepableText(
    field('Diagnostic-Code')
      .replace(/^[^;]*;/, '')
      .trim() || code,
    500,
  )
  if (isForGood && ours.member !== '' && ours.sending !== undefined)
    await ledger.letters.reported(ours.sending, ours.member, 'bounced')
  const isMember = isForGood && ours.member !== '' && ours.kind !== 'notice' && (await ledger.bounce(ours.member, said))
  return { ok: true, recipient, status: code, isForGood, member: isMember }
}

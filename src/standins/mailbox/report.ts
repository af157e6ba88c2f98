/**
 * A report that a mail could not be delivered: multipart/report with a part for people and one for programs (RFC 3464,
 * section 2; RFC 6522), and the headers of the mail that it is about.
 */
export function deliveryReport({
  from,
  to,
  about,
  id,
  now,
}: {
  /** The address that takes no mail. */
  from: string
  /** The return path. */
  to: string
  about: Buffer
  id: string
  now: number
}): Buffer {
  const headers = about.toString('latin1').split('\r\n\r\n')[0]!
  const boundary = `report-${id}`
  const host = 'mailbox.example'
  return Buffer.from(
    [
      `From: Mail delivery <postmaster@${host}>`,
      `To: <${to}>`,
      'Subject: Undeliverable mail',
      `Date: ${new Date(now).toUTCString().replace('GMT', '+0000')}`,
      `Message-ID: <${id}@${host}>`,
      'Auto-Submitted: auto-replied',
      'MIME-Version: 1.0',
      `Content-Type: multipart/report; report-type=delivery-status; boundary="${boundary}"`,
      '',
      `--${boundary}`,
      'Content-Type: text/plain; charset=utf-8',
      '',
      `Your mail to ${from} could not be delivered: there is no such mailbox.`,
      `--${boundary}`,
      'Content-Type: message/delivery-status',
      '',
      `Reporting-MTA: dns; ${host}`,
      '',
      `Final-Recipient: rfc822; ${from}`,
      'Action: failed',
      'Status: 5.1.1',
      'Diagnostic-Code: smtp; 550 5.1.1 No such mailbox',
      '',
      `--${boundary}`,
      'Content-Type: text/rfc822-headers',
      '',
      headers,
      `--${boundary}--`,
      '',
    ].join('\r\n'),
    'latin1',
  )
}

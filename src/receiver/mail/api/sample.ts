import type { SmtpServer } from '#core/api'
import { parseEmail } from '#core/email'
import type { ListId } from '#core/ids'
import { type MailSettings, type MessageKind, needsLink } from '#core/mail'
import { type ComposedMail, composeMessage } from '..'
import { newId } from '../../random'
import type { Settings } from '../../settings'
import type { MailApiParts } from './parts'

/** A message as it is in the owner's hands, to a made-up reader. Its links are nobody's. */
export async function sample(
  { ledger, settings, sender }: MailApiParts,
  to: string,
  { list: id, settings: mail, kind }: { list: string; settings: MailSettings; kind: MessageKind },
): Promise<ComposedMail> {
  const list = ledger.published().list(id) ?? { id: id as ListId, name: 'Your list', why: '' }
  // Before there is a sender, one stands in, so that the message can be looked at.
  const sent = parseEmail(mail.senderAddress).ok
    ? mail
    : { ...mail, senderAddress: senderFor(settings, await sender.server()) }
  const example = (path: string) => `${settings.publicUrl}/${path}/only-an-example`
  return composeMessage({
    settings: sent,
    list,
    kind,
    named: { id: `test-${newId()}`, to },
    facts: {
      firstName: 'Wren',
      link: needsLink.includes(kind) ? example(kind === 'leaving' ? 'leave' : 'confirm') : null,
      leaveLink: kind === 'welcome' || kind === 'already-there' ? example('leave') : null,
      giftLink: mail.gift === null ? null : example('gift'),
    },
  })
}

export function senderFor(settings: Settings, server: SmtpServer | null): string {
  if (server !== null && parseEmail(server.user).ok) return server.user
  return `test@${new URL(settings.publicUrl).hostname}`
}

/** A plain test of the server. */
export function plainTest(to: string, publicUrl: string, from: string): ComposedMail {
  return {
    messageId: `<test-${newId()}@${from.slice(from.lastIndexOf('@') + 1)}>`,
    from,
    to,
    envelope: { from, to },
    files: [],
    subject: 'It works: mail from Ask Box arrives',
    text: `This is a test. The mail server that you set up takes mail.\n\nSent by the receiver at ${publicUrl}\n`,
    headers: { 'Auto-Submitted': 'auto-generated' },
  }
}

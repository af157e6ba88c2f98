import { parseEmail } from '#core/email'
import { type FormContent, messagesOf, takesMessages } from '#core/form'
import { hasSender, type MailSettings } from '#core/mail'
import type { Finding } from './finding'

/** Whether what visitors write to the owner arrives there. */
export function messageFindings(content: FormContent, mail: MailSettings | null): Finding[] {
  if (!takesMessages(content)) return []
  const selector = `.askbox-field-${content.fields.find(({ kind }) => kind === 'message')!.key}`
  const at = { station: 'form' as const, about: 'messages', selector }
  const { to } = messagesOf(content)
  const findings: (Finding | false)[] = [
    !parseEmail(to).ok && {
      ...at,
      code: 'messages-nowhere',
      weight: 'stops',
      message:
        to.trim() === ''
          ? 'The form takes messages, and has no address of yours that they go to.'
          : `Messages go to “${to.trim()}”, which is no email address.`,
    },
    !hasSender(mail) && {
      ...at,
      code: 'messages-unsent',
      weight: 'fault',
      message:
        'Messages are kept here and do not come to your inbox yet: the list has no sender that mail goes out from.',
      reason: 'Say who sends the list’s mail at the Mail station, and publish.',
    },
  ]
  return findings.filter((finding) => finding !== false)
}

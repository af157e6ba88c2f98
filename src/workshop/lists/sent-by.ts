import { type MailSettings, messagesInUse } from '#core/mail'

/** What a list sends by itself, in a sentence; `null` for a list whose mail was never published. */
export function sentBy(published: MailSettings | null): string {
  if (published === null || messagesInUse(published).length === 0) return 'Sends no mail by itself.'
  const { confirm, messages, gift } = published
  const parts = [
    confirm === 'always' ? 'everybody confirms' : confirm === 'regions' ? 'some confirm' : null,
    messages.welcome.isOn ? `a welcome${gift === null ? '' : ` with “${gift.label}”`}` : null,
  ].filter((part) => part !== null)
  return parts.length === 0 ? 'Sends mail.' : `Mail: ${parts.join(', ')}.`
}

import { sameValue } from '#core/json'
import type { MailSettings, MessageKind } from '#core/mail'
import type { Language } from '#core/texts'
import { startMessages } from './start'

/** A list's mails in another language: all that is still ours follows, what the owner wrote stays. */
export function mailInLanguage(settings: MailSettings, language: Language): MailSettings {
  const [before, after] = [startMessages(settings.language), startMessages(language)]
  const messages = { ...settings.messages }
  for (const kind of Object.keys(before) as MessageKind[])
    for (const part of ['subject', 'text', 'button', 'below'] as const)
      if (sameValue(messages[kind][part], before[kind][part]))
        messages[kind] = { ...messages[kind], [part]: after[kind][part] }
  return { ...settings, language, messages }
}

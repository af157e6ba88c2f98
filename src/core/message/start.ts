import type { ListId } from '#core/ids'
import { quietPalette, coloursFrom } from '#core/look'
import { richText, type RichText, type Span } from '#core/text'
import type { Language } from '#core/texts'
import type { Mail, MailSettings, Message, MessageKind } from '#core/mail'
import { type MessageWords, messageWordsOf } from './words'

/** What the mail of a new list says before its owner rewrites it. Nothing of it is sent until it is published. */
export function startMail(
  list: ListId,
  listName: string,
  language: Language = 'en',
  colours: MailSettings['colours'] = startColours(),
): Mail {
  return {
    list,
    draft: {
      confirm: 'never',
      regions: [],
      waitingDays: 7,
      isDiscreet: false,
      senderName: listName,
      senderAddress: '',
      replyTo: '',
      bounceAddress: '',
      postalAddress: '',
      language,
      colours,
      messages: startMessages(language),
      notice: { when: 'never', address: '' },
      gift: null,
    },
    published: null,
  }
}

function startColours(): MailSettings['colours'] {
  const { background, text, button, buttonText } = coloursFrom(quietPalette, 'page')
  return { ground: background, text, button, buttonText }
}

export function startMessages(language: Language): MailSettings['messages'] {
  const words = messageWordsOf(language)
  const message = (kind: MessageKind, isOn: boolean): Message => {
    const { subject, text, button, below }: MessageWords = words[kind]
    return {
      isOn,
      subject: withPlaceholders(subject),
      text: withPlaceholders(text),
      button,
      below: withPlaceholders(below),
    }
  }
  return {
    confirmation: message('confirmation', true),
    welcome: message('welcome', true),
    'already-there': message('already-there', true),
    reminder: message('reminder', false),
    leaving: message('leaving', true),
  }
}

/** `{list}` and `{first-name|there}` as placeholders; what follows the bar stands where nothing is known. */
export function withPlaceholders(text: string): RichText {
  return richText(text).map((block) =>
    block.kind === 'paragraph' ? { ...block, spans: block.spans.flatMap(({ text }) => spansOf(text)) } : block,
  )
}

function spansOf(text: string): Span[] {
  return text.split(/(\{[a-z-]{1,20}(?:\|[^{}|]{0,100})?\})/).flatMap((part): Span[] => {
    if (part === '') return []
    const [, name, fallback = ''] = /^\{([a-z-]{1,20})(?:\|([^{}|]{0,100}))?\}$/.exec(part) ?? []
    return [name === undefined ? { text: part } : { text: fallback, placeholder: name as Span['placeholder'] }]
  })
}

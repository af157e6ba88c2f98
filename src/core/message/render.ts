import type { List } from '#core/list'
import { mix } from '#core/look'
import { type Placeholder, plainText, type RichText } from '#core/text'
import { directionOf, filledIn } from '#core/texts'
import { gifts, type MailSettings, type MessageKind } from '#core/mail'
import {
  darkScheme,
  escaped,
  filled,
  htmlOf,
  initialOf,
  isolatedLatin,
  MAIL_CORNER,
  oneLine,
  plainBody,
} from './markup'
import { template } from './template'
import { greetingName, withoutLinks } from './typed'
import { messageWordsOf } from './words'

/** What a message says of its reader. */
export interface MessageFacts {
  /** As it was typed; empty when it is not known. */
  firstName: string
  /** Where the message's button leads; null where this message has none. */
  link: string | null
  /** Null for a message to somebody who is not on the list. */
  leaveLink: string | null
  /** Null when no gift is handed over by it. */
  giftLink: string | null
}

export interface RenderedMessage {
  subject: string
  html: string
  text: string
}

/**
 * A message as it is sent: HTML that old mail programs show, and the same said in plain text. Everything that anybody
 * typed is text in it, and a subject is one line.
 */
export function renderMessage(
  settings: MailSettings,
  list: Pick<List, 'name' | 'why'>,
  kind: MessageKind,
  facts: MessageFacts,
): RenderedMessage {
  const message = settings.messages[kind]
  const { language, colours, gift } = settings
  const words = messageWordsOf(language)
  const values: Record<Placeholder, string> = {
    'first-name': withoutLinks(greetingName(oneLine(facts.firstName))),
    list: list.name,
    link: facts.link ?? '',
    'leave-link': facts.leaveLink ?? '',
    'gift-link': facts.giftLink ?? '',
    days: String(settings.waitingDays),
    'web-copy': '',
    'post-title': '',
  }
  const isolated = directionOf(language) === 'rtl' ? isolatedLatin(values) : values
  const fill = (text: RichText) => filled(text, isolated)
  const subject = oneLine(plainText(filled(message.subject, values))) || list.name
  const isGiven = gift !== null && gifts(settings, kind) && facts.giftLink !== null
  const giftLine: RichText = isGiven
    ? [
        {
          kind: 'paragraph',
          spans: [{ text: filledIn(words.gift, { gift: gift.label }), link: facts.giftLink! }],
        },
      ]
    : []
  const body = [...fill(message.text), ...giftLine]
  const below = fill(message.below)
  const button = message.button.trim()
  const hasButton = button !== '' && facts.link !== null
  const foot = [list.why.trim(), settings.postalAddress.trim()].filter(Boolean)
  const preview = plainText(body).replaceAll(/\s+/g, ' ').slice(0, 120)

  const slots: Record<string, string> = {
    language,
    direction: directionOf(language),
    align: directionOf(language) === 'rtl' ? 'right' : 'left',
    title: escaped(subject),
    preview: escaped(preview),
    around: mix(colours.text, colours.ground, 0.06),
    ground: colours.ground,
    ...darkScheme(colours),
    corner: `${MAIL_CORNER}px`,
    initial: escaped(initialOf(list.name)),
    text: colours.text,
    button: colours.button,
    'button-text': colours.buttonText,
    list: escaped(list.name),
    body: htmlOf(body, colours.text),
    below: htmlOf(below, colours.text),
    link: escaped(facts.link ?? ''),
    'button-words': escaped(button),
    foot: [
      ...foot.map((part) => escaped(part).replaceAll('\n', '<br>')),
      ...(facts.leaveLink === null
        ? []
        : [`<a href="${escaped(facts.leaveLink)}" style="color:${colours.text}">${escaped(words.leave)}</a>`]),
    ].join('<br>'),
  }
  return {
    subject,
    html: withoutPart(withoutPart(template, 'button', hasButton), 'below', below.length > 0).replace(
      /\[\[([a-z-]{1,20})\]\]/g,
      (whole, name: string) => slots[name] ?? whole,
    ),
    text: [
      plainBody(body),
      ...(hasButton ? [`${button}:\n${facts.link}`] : []),
      plainBody(below),
      ['-- ', ...foot, ...(facts.leaveLink === null ? [] : [`${words.leave}: ${facts.leaveLink}`])].join('\n'),
    ]
      .filter(Boolean)
      .join('\n\n'),
  }
}

function withoutPart(html: string, part: string, isKept: boolean): string {
  const [start, end] = [html.indexOf(`<!--${part}-->`), html.indexOf(`<!--/${part}-->`)]
  if (start < 0 || end < 0) return html
  const inner = html.slice(start + `<!--${part}-->`.length, end)
  return html.slice(0, start) + (isKept ? inner : '') + html.slice(end + `<!--/${part}-->`.length)
}

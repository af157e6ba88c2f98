import type { List } from '#core/list'
import { type Block, FOLLOWABLE_LINK, type Placeholder, plainText, type RichText, type Span } from '#core/text'
import { isDark, mix } from '#core/look'
import { directionOf, filledIn } from '#core/texts'
import { gifts, type MailSettings, type MessageKind } from '#core/mail'
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

/** Of the button, in CSS pixels. */
const MAIL_CORNER = 6

/** The first letter of a list's name, as its mark. */
function initialOf(name: string): string {
  return (/[\p{L}\p{N}]/u.exec(name)?.[0] ?? '·').toUpperCase()
}

/** A text with its placeholders filled in: text like any other from here on. */
export function filled(text: RichText, values: Record<Placeholder, string>): RichText {
  const spans = (all: readonly Span[]): Span[] =>
    all.map(({ placeholder, ...span }) =>
      placeholder === undefined
        ? span
        : linkedWhereOurs(placeholder, { ...span, text: values[placeholder] || span.text }),
    )
  return text.map((block) =>
    block.kind === 'paragraph'
      ? { ...block, spans: tidySpaces(spans(block.spans)) }
      : { ...block, items: block.items.map(spans) },
  )
}

/** An address of ours that stands in a text can be pressed; nothing that anybody typed. */
function linkedWhereOurs(placeholder: Placeholder, span: Span): Span {
  const isOurs = placeholder === 'link' || placeholder === 'leave-link' || placeholder === 'gift-link'
  return isOurs && span.link === undefined && /^https?:\/\/\S+$/.test(span.text) ? { ...span, link: span.text } : span
}

/** “Hello {first-name},” of somebody without a name is “Hello,” and not “Hello ,”. */
function tidySpaces(spans: Span[]): Span[] {
  return spans.map((span, at) => {
    const next = spans.slice(at + 1).find(({ text }) => text !== '')
    const isGap =
      span.text.endsWith(' ') && spans[at + 1]?.text === '' && next !== undefined && /^[,:!.،]/.test(next.text)
    return isGap ? { ...span, text: span.text.trimEnd() } : span
  })
}

/** One line without control characters: a header can hold it. */
function oneLine(text: string): string {
  return text
    .replaceAll(/[\p{Cc}\u2028\u2029]+/gu, ' ')
    .replaceAll(/ {2,}/g, ' ')
    .trim()
}

function withoutPart(html: string, part: string, isKept: boolean): string {
  const [start, end] = [html.indexOf(`<!--${part}-->`), html.indexOf(`<!--/${part}-->`)]
  if (start < 0 || end < 0) return html
  const inner = html.slice(start + `<!--${part}-->`.length, end)
  return html.slice(0, start) + (isKept ? inner : '') + html.slice(end + `<!--/${part}-->`.length)
}

function htmlOf(text: RichText, colour: string): string {
  return text
    .map((block: Block) => {
      if (block.kind === 'paragraph')
        return `<p style="margin:0 0 16px;color:${colour}">${spansHtml(block.spans, colour)}</p>`
      const tag = block.kind === 'bullets' ? 'ul' : 'ol'
      const items = block.items.map((item) => `<li style="margin:0 0 4px">${spansHtml(item, colour)}</li>`).join('')
      return `<${tag} style="margin:0 0 16px;padding:0 24px;color:${colour}">${items}</${tag}>`
    })
    .join('')
}

function spansHtml(spans: readonly Span[], colour: string): string {
  return spans
    .map(({ text, bold, italic, link }) => {
      let html = escaped(text).replaceAll('\n', '<br>')
      if (italic) html = `<em>${html}</em>`
      if (bold) html = `<strong>${html}</strong>`
      if (link !== undefined && FOLLOWABLE_LINK.test(link))
        html = `<a href="${escaped(link)}" style="color:${colour}">${html}</a>`
      return html
    })
    .join('')
}

/** The same in plain text: list items with a dash or a number, a link's address after its words. */
function plainBody(text: RichText): string {
  const line = (spans: readonly Span[]) =>
    spans.map(({ text, link }) => (link === undefined || link === text ? text : `${text} <${link}>`)).join('')
  return text
    .map((block) =>
      block.kind === 'paragraph'
        ? line(block.spans)
        : block.items.map((item, at) => `${block.kind === 'bullets' ? '-' : `${at + 1}.`} ${line(item)}`).join('\n'),
    )
    .join('\n\n')
}

function escaped(text: string): string {
  return text
    .replaceAll('&', '&amp;')
    .replaceAll('<', '&lt;')
    .replaceAll('>', '&gt;')
    .replaceAll('"', '&quot;')
    .replaceAll("'", '&#39;')
}

/** What is written from left to right within a text that is not, kept together with what belongs to it: Unicode's FSI and PDI (UAX #9). */
function isolatedLatin(values: Record<Placeholder, string>): Record<Placeholder, string> {
  const links: readonly string[] = ['link', 'leave-link', 'gift-link']
  return Object.fromEntries(
    Object.entries(values).map(([name, value]) => [
      name,
      links.includes(name) || !/\p{Script=Latin}/u.test(value) ? value : `\u2068${value}\u2069`,
    ]),
  ) as Record<Placeholder, string>
}

/** The same mail where its reader's program is dark: the brand's own ink as the ground, or its ground where that is dark already. */
function darkScheme({
  ground,
  text,
}: MailSettings['colours']): Record<'dark-around' | 'dark-ground' | 'dark-text', string> {
  const dark = isDark(ground) ? ground : mix(isDark(text) ? text : ground, '#000000', 0.6)
  return {
    'dark-ground': dark,
    'dark-around': mix(dark, '#000000', 0.6),
    'dark-text': mix('#ffffff', dark, 0.92),
  }
}

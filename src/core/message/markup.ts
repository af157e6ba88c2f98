import { isDark, mix } from '#core/look'
import type { MailSettings } from '#core/mail'
import { type Block, FOLLOWABLE_LINK, type Placeholder, type RichText, type Span } from '#core/text'

/* What every mail is written with, whether a list sends it by itself or its owner wrote it. */

/** Placeholders that stand for an address of ours. */
const LINKS: readonly string[] = ['link', 'leave-link', 'gift-link', 'web-copy'] satisfies Placeholder[]

/** Of the button, in CSS pixels. */
export const MAIL_CORNER = 6

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
  const isOurs = LINKS.includes(placeholder)
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

/** The first letter of a list's name, as its mark. */
export function initialOf(name: string): string {
  return (/[\p{L}\p{N}]/u.exec(name)?.[0] ?? '·').toUpperCase()
}

/** One line without control characters: a header can hold it. */
export function oneLine(text: string): string {
  return text
    .replaceAll(/[\p{Cc}\u2028\u2029]+/gu, ' ')
    .replaceAll(/ {2,}/g, ' ')
    .trim()
}

/** A text as markup that old mail programs show. */
export function htmlOf(text: RichText, colour: string): string {
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

export function spansHtml(spans: readonly Span[], colour: string): string {
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
export function plainBody(text: RichText): string {
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

export function escaped(text: string): string {
  return text
    .replaceAll('&', '&amp;')
    .replaceAll('<', '&lt;')
    .replaceAll('>', '&gt;')
    .replaceAll('"', '&quot;')
    .replaceAll("'", '&#39;')
}

/** What is written from left to right within a text that is not, kept together with what belongs to it: Unicode's FSI and PDI (UAX #9). */
export function isolatedLatin(values: Record<Placeholder, string>): Record<Placeholder, string> {
  return Object.fromEntries(
    Object.entries(values).map(([name, value]) => [
      name,
      LINKS.includes(name) || !/\p{Script=Latin}/u.test(value) ? value : `\u2068${value}\u2069`,
    ]),
  ) as Record<Placeholder, string>
}

/** The same mail where its reader's program is dark: the brand's own ink as the ground, or its ground where that is dark already. */
export function darkScheme({
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

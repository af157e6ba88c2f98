import type { List } from '#core/list'
import { mix } from '#core/look'
import type { MailSettings } from '#core/mail'
import {
  darkScheme,
  escaped,
  filled,
  greetingName,
  htmlOf,
  initialOf,
  isolatedLatin,
  MAIL_CORNER,
  messageWordsOf,
  oneLine,
  plainBody,
  spansHtml,
  withoutLinks,
} from '#core/message'
import {
  FOLLOWABLE_LINK,
  type Placeholder,
  placeholdersIn,
  plainText,
  type RichText,
  saysNothing,
  type Span,
} from '#core/text'
import { directionOf } from '#core/texts'
import type { BlockInColumn, LetterBlock, LetterBody } from './letter'
import { letterParts } from './template'

/** What a letter says of its reader, and where its addresses lead. */
export interface LetterFacts {
  /** As it was typed; empty when it is not known. */
  firstName: string
  /** Null for whoever reads it without being on the list. */
  leaveLink: string | null
  /** Null where it is the web copy itself. */
  webCopy: string | null
  pictureAddress(id: string): string
  /** Address of a form's own page. */
  pageOf(spot: string): string
  /** Where a link leads instead, so that its presses are counted; missing where they are not. */
  linkTo?(address: string): string
  /** Whether blocks and their texts are marked, so that they can be worked on in the preview. */
  marksBlocks?: boolean
}

export interface RenderedLetter {
  subject: string
  /** Null for a letter in plain text. */
  html: string | null
  text: string
}

/** Widths of a picture's place, in CSS pixels: the whole letter's and a column's. */
const WIDE = 536
const NARROW = 244
const shares = { full: 1, half: 0.5, small: 0.25 }

/**
 * A letter as it is sent to one reader: HTML that old mail programs show, and the same said in plain text, from the same
 * blocks. Everything that anybody typed is text in it, and the subject is one line.
 */
export function renderLetter(
  body: LetterBody,
  {
    list,
    settings,
    facts,
  }: {
    list: Pick<List, 'name' | 'why'>
    settings: Pick<MailSettings, 'language' | 'colours' | 'postalAddress'>
    facts: LetterFacts
  },
): RenderedLetter {
  const { language, colours, postalAddress } = settings
  const texts = messageWordsOf(language)
  const values: Record<Placeholder, string> = {
    'first-name': withoutLinks(greetingName(oneLine(facts.firstName))),
    list: list.name,
    link: '',
    'leave-link': facts.leaveLink ?? '',
    'gift-link': '',
    days: '',
    'web-copy': facts.webCopy ?? '',
    'post-title': '',
  }
  const isRight = directionOf(language) === 'rtl'
  const inBody = isRight ? isolatedLatin(values) : values
  const ways: Ways = {
    facts,
    colours,
    fill: (text) => withLinks(filled(text, inBody), facts.linkTo),
    slots: {
      align: isRight ? 'right' : 'left',
      start: isRight ? 'right' : 'left',
      direction: directionOf(language),
      text: colours.text,
      button: colours.button,
      'button-text': colours.buttonText,
      corner: `${MAIL_CORNER}px`,
      hairline: mix(colours.text, colours.ground, 0.2),
    },
  }
  const subject = oneLine(plainText(filled(body.subject, values))) || list.name
  const plain = body.blocks.map((block) => plainOf(block, ways)).filter(Boolean)
  const foot = [list.why.trim(), postalAddress.trim(), facts.linkTo === undefined ? '' : texts.countsLinks].filter(
    Boolean,
  )
  const ends = [
    ...(facts.webCopy === null ? [] : [{ words: texts.webCopy, link: facts.webCopy }]),
    ...(facts.leaveLink === null ? [] : [{ words: texts.leave, link: facts.leaveLink }]),
  ]
  const text = [...plain, ['-- ', ...foot, ...ends.map(({ words, link }) => `${words}: ${link}`)].join('\n')].join(
    '\n\n',
  )
  if (body.isPlain) return { subject, html: null, text }
  const html = withSlots(letterParts.frame, {
    ...ways.slots,
    ...darkScheme(colours),
    language,
    title: escaped(subject),
    preview: escaped(oneLine(body.preview) || plain.join(' ').replaceAll(/\s+/g, ' ').slice(0, 120)),
    around: mix(colours.text, colours.ground, 0.06),
    ground: colours.ground,
    initial: escaped(initialOf(list.name)),
    list: escaped(list.name),
    sections: sectionsOf(body.blocks, ways),
    foot: [
      ...foot.map((part) => escaped(part).replaceAll('\n', '<br>')),
      ends
        .map(({ words, link }) => `<a href="${escaped(link)}" style="color:${colours.text}">${escaped(words)}</a>`)
        .join(' · '),
    ]
      .filter(Boolean)
      .join('<br>'),
  })
  return { subject, html, text }
}

interface Ways {
  facts: LetterFacts
  colours: MailSettings['colours']
  fill(text: RichText): RichText
  slots: Record<string, string>
}

/** Blocks below each other share a section; two columns are one of their own. */
function sectionsOf(blocks: readonly LetterBlock[], ways: Ways): string {
  const sections: string[] = []
  let rows: string[] = []
  const end = () => {
    if (rows.length > 0) sections.push(withSlots(letterParts.section, { ...ways.slots, rows: rows.join('\n') }))
    rows = []
  }
  for (const block of blocks) {
    if (block.kind !== 'columns') {
      rows.push(rowOf(block, WIDE, ways))
      continue
    }
    end()
    const column = (inner: readonly BlockInColumn[]) => inner.map((one) => rowOf(one, NARROW, ways)).join('\n')
    const two = withSlots(letterParts.two, { ...ways.slots, left: column(block.left), right: column(block.right) })
    sections.push(ways.facts.marksBlocks ? two.replace(/<div/, `<div data-block="${block.id}"`) : two)
  }
  end()
  return sections.join('\n')
}

/** One block as rows of its column's table. */
function rowOf(block: Exclude<LetterBlock, { kind: 'columns' }>, room: number, ways: Ways): string {
  const { facts, colours, slots, fill } = ways
  const part = (name: Exclude<keyof typeof letterParts, 'frame' | 'section' | 'two'>, more: Record<string, string>) => {
    const row = withSlots(letterParts[name], { ...slots, ...more })
    return facts.marksBlocks ? row.replace(/^<tr>/, `<tr data-block="${block.id}">`) : row
  }
  /** The words of a block, in an element that an editor can take. */
  const written = (words: string, name: string, tag = 'div') =>
    facts.marksBlocks ? `<${tag} data-text="${name}">${words}</${tag}>` : words
  const spans = (text: RichText) => lineHtml(fill(text), colours.text)
  switch (block.kind) {
    case 'words': {
      const name = block.as === 'text' ? 'words' : block.as
      if (saysNothing(block.text) && placeholdersIn(block.text).length === 0 && facts.marksBlocks !== true) return ''
      const isLine = name === 'title' || name === 'heading'
      const html = isLine ? spans(block.text) : withoutLastMargin(htmlOf(fill(block.text), colours.text))
      return part(name, { words: written(html, 'text', isLine ? 'span' : 'div') })
    }
    case 'picture': {
      const source = block.picture === null ? safe(block.address) : facts.pictureAddress(block.picture.id)
      if (source === '') return facts.marksBlocks ? part('space', { height: '80px' }) : ''
      const place = Math.round(room * shares[block.width])
      const width = String(Math.min(place, block.picture?.width ?? place))
      const link = safe(block.link)
      const more = { src: escaped(source), alt: escaped(block.alt), width, link: escaped(followed(link, facts)) }
      return part(link === '' ? 'picture' : 'linked-picture', more)
    }
    case 'button': {
      const link = safe(block.link)
      if (link === '' && facts.marksBlocks !== true) return ''
      const words = escaped(block.words)
      return part('button', { words: written(words, 'words', 'span'), link: escaped(followed(link, facts)) || '#' })
    }
    case 'rule':
      return part('rule', {})
    case 'space':
      return part('space', { height: `${block.height}px` })
    case 'offer': {
      const link = block.spot === null ? '' : facts.pageOf(block.spot)
      return [
        part('heading', { words: written(escaped(block.heading), 'heading', 'span') }),
        part('words', { words: written(withoutLastMargin(htmlOf(fill(block.text), colours.text)), 'text') }),
        ...(link === '' && facts.marksBlocks !== true
          ? []
          : [part('button', { words: written(escaped(block.button), 'button', 'span'), link: escaped(link) || '#' })]),
      ].join('\n')
    }
  }
}

function plainOf(block: LetterBlock, ways: Ways): string {
  const { facts, fill } = ways
  const at = (link: string) => followed(safe(link), facts)
  const pressed = (words: string, link: string) => (link === '' ? '' : `${words.trim()}:\n${link}`)
  switch (block.kind) {
    case 'words': {
      const text = plainBody(fill(block.text))
      if (block.as === 'quote') return text.replaceAll(/^/gm, '> ')
      return block.as === 'text' || text === ''
        ? text
        : `${text}\n${(block.as === 'title' ? '=' : '-').repeat(Math.min(60, text.length))}`
    }
    case 'picture':
      return [block.alt.trim() === '' ? '' : `[${block.alt.trim()}]`, at(block.link)].filter(Boolean).join('\n')
    case 'button':
      return pressed(block.words, at(block.link))
    case 'rule':
      return '* * *'
    case 'space':
      return ''
    case 'offer':
      return [
        block.heading.trim(),
        plainBody(fill(block.text)),
        block.spot === null ? '' : pressed(block.button, facts.pageOf(block.spot)),
      ]
        .filter(Boolean)
        .join('\n\n')
    case 'columns':
      return [...block.left, ...block.right]
        .map((one) => plainOf(one, ways))
        .filter(Boolean)
        .join('\n\n')
  }
}

/** An address that may be followed, as it was typed; empty for any other. */
function safe(address: string): string {
  return FOLLOWABLE_LINK.test(address.trim()) ? address.trim() : ''
}

function followed(address: string, { linkTo }: LetterFacts): string {
  return linkTo !== undefined && /^https?:/i.test(address) ? linkTo(address) : address
}

/** Web addresses lead by way of the counter, where there is one. What is ours already stays. */
function withLinks(text: RichText, linkTo: LetterFacts['linkTo']): RichText {
  if (linkTo === undefined) return text
  const ours = (spans: readonly Span[]): Span[] =>
    spans.map((span) =>
      span.link === undefined || !/^https?:/i.test(span.link) ? span : { ...span, link: linkTo(span.link) },
    )
  return text.map((block) =>
    block.kind === 'paragraph' ? { ...block, spans: ours(block.spans) } : { ...block, items: block.items.map(ours) },
  )
}

/** The spans of a text of one line, its paragraphs on lines of their own. */
function lineHtml(text: RichText, colour: string): string {
  return text
    .flatMap((block) => (block.kind === 'paragraph' ? [block.spans] : block.items))
    .map((spans) => spansHtml(spans, colour))
    .join('<br>')
}

/** The room below a block is its own; of the last paragraph's it would be twice as much. */
function withoutLastMargin(html: string): string {
  const margin = 'margin:0 0 16px'
  const at = html.lastIndexOf(margin)
  return at < 0 ? html : `${html.slice(0, at)}margin:0${html.slice(at + margin.length)}`
}

function withSlots(html: string, slots: Record<string, string>): string {
  return html.replaceAll(/\[\[([a-z-]{1,20})\]\]/g, (whole, name: string) => slots[name] ?? whole)
}

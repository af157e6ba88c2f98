import { z } from 'zod'
import { harmlessText } from './text'

/** Only these may be followed; anything else could run or reach what it should not. */
export const FOLLOWABLE_LINK = /^(https?:\/\/|mailto:|tel:)\S+$/i

/** What a message says of its reader or its list where it stands. Forms have none. */
export const placeholders = [
  'first-name',
  'list',
  'link',
  'leave-link',
  'gift-link',
  'days',
  'web-copy',
  'post-title',
] as const
export type Placeholder = (typeof placeholders)[number]

const spanSchema = z.strictObject({
  /** Of a placeholder, what stands there when nothing is known. */
  text: harmlessText,
  placeholder: z.enum(placeholders).optional(),
  bold: z.literal(true).optional(),
  italic: z.literal(true).optional(),
  link: harmlessText
    .refine((link) => FOLLOWABLE_LINK.test(link), 'must be a web, mail or telephone address')
    .optional(),
})
/** A stretch of text with one format. `\n` in it is a line break. */
export type Span = z.infer<typeof spanSchema>

const spans = z.array(spanSchema).max(2_000)
const blockSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('paragraph'), spans }),
  z.strictObject({ kind: z.enum(['bullets', 'numbers']), items: z.array(spans).max(500) }),
])
export type Block = z.infer<typeof blockSchema>

/**
 * Text with bold, italic, links and lists, kept as what it means and never as markup: whatever was pasted or
 * typed, nothing else can come out of it.
 */
export const richTextSchema = z.array(blockSchema).max(500)
export type RichText = z.infer<typeof richTextSchema>

/** One paragraph for each stretch between empty lines. An empty text is no paragraph. */
export function richText(text: string): RichText {
  return text === ''
    ? []
    : text
        .split(/\n{2,}/)
        .map((paragraph) => ({ kind: 'paragraph', spans: paragraph === '' ? [] : [{ text: paragraph }] }))
}

export function bullets(items: readonly string[]): RichText {
  return items.length === 0 ? [] : [{ kind: 'bullets', items: items.map((text) => [{ text }]) }]
}

/** The words alone: paragraphs parted by an empty line, list items by a line break. */
export function plainText(rich: RichText): string {
  return rich
    .map((block) => (block.kind === 'paragraph' ? textOf(block.spans) : block.items.map(textOf).join('\n')))
    .join('\n\n')
}

export function saysNothing(rich: RichText): boolean {
  return plainText(rich).trim() === ''
}

/** All addresses it links to. */
export function linksIn(rich: RichText): string[] {
  return spansIn(rich).flatMap(({ link }) => (link === undefined ? [] : [link]))
}

/** Neighbours of the same format become one, empty stretches go: equal texts are then equal values. */
export function tidied(spans: readonly Span[]): Span[] {
  const joined: Span[] = []
  for (const span of spans) {
    if (span.text === '' && span.placeholder === undefined) continue
    const last = joined.at(-1)
    if (span.placeholder !== undefined || last?.placeholder !== undefined) joined.push(span)
    else if (last !== undefined && last.bold === span.bold && last.italic === span.italic && last.link === span.link)
      joined[joined.length - 1] = { ...last, text: last.text + span.text }
    else joined.push(span)
  }
  return joined
}

/** All placeholders that stand in it. */
export function placeholdersIn(rich: RichText): Placeholder[] {
  return spansIn(rich).flatMap(({ placeholder }) => placeholder ?? [])
}

function spansIn(rich: RichText): Span[] {
  return rich.flatMap((block) => (block.kind === 'paragraph' ? block.spans : block.items.flat()))
}

function textOf(spans: readonly Span[]): string {
  return spans.map(({ text }) => text).join('')
}

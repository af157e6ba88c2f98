import { type DefaultTreeAdapterTypes as Html, parseFragment } from 'parse5'
import type { LetterBlock } from '#core/letter'
import { FOLLOWABLE_LINK, keepableText, plainText, type RichText, type Span, tidied } from '#core/text'

/** As much of one post is read. */
const MOST_BLOCKS = 100
const LONGEST_SPAN = 10_000
const LONGEST_ADDRESS = 2_000

const IS_SKIPPED = new Set([
  'script',
  'style',
  'iframe',
  'form',
  'noscript',
  'object',
  'embed',
  'svg',
  'math',
  'template',
])
const ENDS_PARAGRAPH = new Set([
  ...[
    'p',
    'div',
    'section',
    'article',
    'header',
    'footer',
    'aside',
    'main',
    'figure',
    'figcaption',
    'table',
    'tr',
    'td',
  ],
  ...['pre', 'address', 'dl', 'dt', 'dd', 'center'],
])
const HEADINGS = new Set(['h1', 'h2', 'h3', 'h4', 'h5', 'h6'])

type Format = Omit<Span, 'text' | 'placeholder'>

/**
 * A post's HTML as blocks of a letter: words with bold, italic, links and lists, headings, quotations and pictures, kept as
 * what they mean and never as markup, so that nothing else can come out of it.
 *
 * @param base what addresses in it are completed by
 */
export function blocksOfHtml(html: string, base: string, newId: () => string): LetterBlock[] {
  const blocks: LetterBlock[] = []
  let as: 'text' | 'heading' | 'quote' = 'text'
  let text: RichText = []
  let spans: Span[] = []

  const endParagraph = () => {
    const kept = trimmed(tidied(spans))
    spans = []
    if (kept.length > 0) text.push({ kind: 'paragraph', spans: kept })
  }
  const endWords = () => {
    endParagraph()
    if (text.length > 0) blocks.push({ id: newId(), kind: 'words', as, text })
    text = []
  }
  const within = (next: typeof as, walk: () => void) => {
    endWords()
    const before = as
    as = next
    walk()
    endWords()
    as = before
  }
  const address = (value: string | undefined): string => completed(value ?? '', base)

  function walk(node: Html.Node, format: Format): void {
    if (blocks.length >= MOST_BLOCKS) return
    if (node.nodeName === '#text') {
      const words = keepableText((node as Html.TextNode).value, LONGEST_SPAN).replaceAll(/\s+/g, ' ')
      if (words !== '') spans.push({ text: words, ...format })
      return
    }
    const element = node as Html.Element
    const name = element.tagName
    if (IS_SKIPPED.has(name)) return
    const children = () => {
      for (const child of element.childNodes ?? []) walk(child, format)
    }
    if (name === 'br') {
      spans.push({ text: '\n', ...format })
      return
    }
    if (name === 'img') {
      const source = address(valueOf(element, 'src'))
      if (!/^https?:/i.test(source)) return
      endWords()
      const alt = keepableText(valueOf(element, 'alt') ?? '', 500)
      blocks.push({ id: newId(), kind: 'picture', picture: null, address: source, alt, link: '', width: 'full' })
      return
    }
    if (HEADINGS.has(name)) return within('heading', children)
    if (name === 'blockquote') return within('quote', children)
    if (name === 'hr') {
      endWords()
      blocks.push({ id: newId(), kind: 'rule' })
      return
    }
    if (name === 'ul' || name === 'ol') {
      endParagraph()
      const items = itemsOf(element, format)
      if (items.length > 0) text.push({ kind: name === 'ul' ? 'bullets' : 'numbers', items })
      return
    }
    const inner = formatWithin(name, element, format)
    if (ENDS_PARAGRAPH.has(name)) endParagraph()
    for (const child of element.childNodes ?? []) walk(child, inner)
    if (ENDS_PARAGRAPH.has(name)) endParagraph()
  }

  function itemsOf(list: Html.Element, format: Format): Span[][] {
    return list.childNodes
      .filter((child): child is Html.Element => child.nodeName === 'li')
      .slice(0, 200)
      .map((item) => {
        const before = spans
        spans = []
        const inLine = (node: Html.Node, format: Format): void => {
          if (node.nodeName === '#text') {
            spans.push({
              text: keepableText((node as Html.TextNode).value, LONGEST_SPAN).replaceAll(/\s+/g, ' '),
              ...format,
            })
            return
          }
          const element = node as Html.Element
          if (IS_SKIPPED.has(element.tagName)) return
          const inner = formatWithin(element.tagName, element, format)
          for (const child of element.childNodes ?? []) inLine(child, inner)
        }
        for (const child of item.childNodes) inLine(child, format)
        const found = trimmed(tidied(spans))
        spans = before
        return found
      })
      .filter((item) => item.length > 0)
  }

  function formatWithin(name: string, element: Html.Element, format: Format): Format {
    if (name === 'strong' || name === 'b') return { ...format, bold: true }
    if (name === 'em' || name === 'i') return { ...format, italic: true }
    const link = name === 'a' ? address(valueOf(element, 'href')) : ''
    return FOLLOWABLE_LINK.test(link) ? { ...format, link } : format
  }

  for (const node of parseFragment(html).childNodes) walk(node, {})
  endWords()
  return blocks
}

/** The first words of what a post says, without its pictures. */
export function summaryOf(blocks: readonly LetterBlock[], letters: number): RichText {
  const words = blocks
    .flatMap((block) => (block.kind === 'words' && block.as === 'text' ? [plainText(block.text)] : []))
    .join(' ')
    .replaceAll(/\s+/g, ' ')
    .trim()
  if (words === '') return []
  const cut = words.length <= letters ? words : `${words.slice(0, words.lastIndexOf(' ', letters)).trimEnd()} …`
  return [{ kind: 'paragraph', spans: [{ text: cut }] }]
}

function completed(value: string, base: string): string {
  const typed = value.trim().slice(0, LONGEST_ADDRESS)
  if (typed === '' || !URL.canParse(typed, base || undefined)) return ''
  const { href, username, password } = new URL(typed, base || undefined)
  return username === '' && password === '' ? href : ''
}

function valueOf({ attrs }: Html.Element, name: string): string | undefined {
  return attrs.find((one) => one.name === name)?.value
}

/** Without white space at both ends. */
function trimmed(spans: readonly Span[]): Span[] {
  const kept = [...spans]
  while (kept[0] !== undefined && kept[0].text.trimStart() === '') kept.shift()
  while (kept.at(-1) !== undefined && kept.at(-1)!.text.trimEnd() === '') kept.pop()
  if (kept.length === 0) return []
  kept[0] = { ...kept[0]!, text: kept[0]!.text.trimStart() }
  const last = kept.length - 1
  kept[last] = { ...kept[last]!, text: kept[last]!.text.trimEnd() }
  return kept
}

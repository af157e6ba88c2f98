import { Fragment, type Mark, type Node, type NodeType, Schema } from 'prosemirror-model'
import {
  type Block,
  FOLLOWABLE_LINK,
  type Placeholder,
  placeholders,
  type RichText,
  type Span,
  tidied,
} from '#core/text'

/** What stands for a placeholder while it is written. */
export const placeholderNames: Record<Placeholder, string> = {
  'first-name': 'First name',
  list: 'List’s name',
  link: 'Link',
  'leave-link': 'Link to leave',
  'gift-link': 'Link to the gift',
  days: 'Days to confirm',
  'web-copy': 'Link to the web copy',
  'post-title': 'Title of the post',
}

/**
 * What a text can be made of, for the editor; drawn as `core/render` draws it. A text is `rich` (paragraphs and
 * lists), a `line` (one paragraph's formats, where only phrasing content may stand), or `plain`.
 */
export const schema = new Schema({
  topNode: 'rich',
  nodes: {
    rich: { content: 'block+' },
    line: { content: 'inline*' },
    plain: { content: '(text | break)*', marks: '' },
    paragraph: {
      content: 'inline*',
      group: 'block',
      parseDOM: [
        { tag: 'p' },
        { tag: 'h1, h2, h3, h4, h5, h6, div, section, article, blockquote, tr, dt, dd, figure' },
      ],
      toDOM: () => ['p', 0],
    },
    bullets: { content: 'item+', group: 'block', parseDOM: [{ tag: 'ul' }], toDOM: () => ['ul', 0] },
    numbers: { content: 'item+', group: 'block', parseDOM: [{ tag: 'ol' }], toDOM: () => ['ol', 0] },
    item: { content: 'inline*', parseDOM: [{ tag: 'li' }], toDOM: () => ['li', 0] },
    text: { group: 'inline' },
    // Whole or not there: nothing can be typed into it.
    placeholder: {
      group: 'inline',
      inline: true,
      atom: true,
      attrs: { name: {}, fallback: { default: '' } },
      parseDOM: [
        {
          tag: 'span[data-placeholder]',
          getAttrs: (node) => {
            const name = node.getAttribute('data-placeholder') ?? ''
            return (
              (placeholders as readonly string[]).includes(name) && {
                name,
                fallback: node.getAttribute('data-fallback') ?? '',
              }
            )
          },
        },
      ],
      toDOM: ({ attrs }) => [
        'span',
        {
          class: 'placeholder',
          'data-placeholder': String(attrs.name),
          'data-fallback': String(attrs.fallback),
        },
        placeholderNames[attrs.name as Placeholder] ?? String(attrs.name),
      ],
    },
    break: {
      group: 'inline',
      inline: true,
      selectable: false,
      linebreakReplacement: true,
      parseDOM: [{ tag: 'br' }],
      toDOM: () => ['br'],
    },
  },
  // Outer marks first: a link around bold around italic, as the renderer nests them.
  marks: {
    link: {
      attrs: { href: {} },
      inclusive: false,
      parseDOM: [
        {
          tag: 'a[href]',
          getAttrs: (node) => {
            const href = node.getAttribute('href') ?? ''
            return FOLLOWABLE_LINK.test(href) && { href }
          },
        },
      ],
      toDOM: ({ attrs }) => ['a', { href: String(attrs.href) }, 0],
    },
    bold: {
      // Some programs wrap all that they copy in a <b> that is none.
      parseDOM: [{ tag: 'strong' }, { tag: 'b', getAttrs: (node) => node.style.fontWeight !== 'normal' && null }],
      toDOM: () => ['strong', 0],
    },
    italic: { parseDOM: [{ tag: 'em' }, { tag: 'i' }], toDOM: () => ['em', 0] },
  },
})

const { nodes, marks } = schema

export type TextKind = 'rich' | 'line' | 'plain'

/** A text as the editor's document. */
export function documentOf(kind: TextKind, text: RichText | string): Node {
  if (typeof text === 'string') return nodes[kind]!.create(null, inlineOf([{ text }]))
  const blocks = text.flatMap(blocksOf)
  if (kind === 'rich') return nodes.rich!.create(null, blocks.length > 0 ? blocks : [nodes.paragraph!.create()])
  const lines = text.flatMap((block) => (block.kind === 'paragraph' ? [block.spans] : block.items))
  return nodes[kind]!.create(
    null,
    inlineOf(lines.flatMap((line, at) => [...(at > 0 ? [{ text: '\n' }] : []), ...line])),
  )
}

function blocksOf(block: Block): Node[] {
  if (block.kind === 'paragraph') return [nodes.paragraph!.create(null, inlineOf(block.spans))]
  const items = block.items.map((item) => nodes.item!.create(null, inlineOf(item)))
  return items.length === 0 ? [] : [nodes[block.kind]!.create(null, items)]
}

function inlineOf(spans: readonly Span[]): Fragment {
  return Fragment.from(
    spans.flatMap(({ text, placeholder, bold, italic, link }) => {
      const format = [
        ...(link === undefined ? [] : [marks.link!.create({ href: link })]),
        ...(bold ? [marks.bold!.create()] : []),
        ...(italic ? [marks.italic!.create()] : []),
      ]
      if (placeholder !== undefined)
        return [nodes.placeholder!.create({ name: placeholder, fallback: text }, null, format)]
      return text
        .split('\n')
        .flatMap((line, at) => [
          ...(at > 0 ? [nodes.break!.create(null, null, format)] : []),
          ...(line === '' ? [] : [schema.text(line, format)]),
        ])
    }),
  )
}

/** What stands in a document: rich text, without blocks that say nothing. */
export function richTextOf(document: Node): RichText {
  if (document.type !== nodes.rich) {
    const spans = spansOf(document)
    return spans.length === 0 ? [] : [{ kind: 'paragraph', spans }]
  }
  const blocks: Block[] = []
  document.forEach((block) => {
    if (block.type === nodes.paragraph) blocks.push({ kind: 'paragraph', spans: spansOf(block) })
    else {
      const items: Span[][] = []
      block.forEach((item) => items.push(spansOf(item)))
      blocks.push({ kind: kindOfList(block.type), items: items.filter((item) => item.length > 0) })
    }
  })
  return blocks.filter((block) => (block.kind === 'paragraph' ? block.spans : block.items).length > 0)
}

/** The words of a document without formats; a line break is `\n`. */
export function plainTextOf(document: Node): string {
  return document.textBetween(0, document.content.size, '\n', '\n')
}

function kindOfList(type: NodeType): 'bullets' | 'numbers' {
  return type === nodes.bullets ? 'bullets' : 'numbers'
}

/** A line break at the very end is only there to stand on. */
function spansOf(block: Node): Span[] {
  const spans: Span[] = []
  block.forEach((node, _, at) => {
    const isEnd = node.type === nodes.break && at === block.childCount - 1
    if (isEnd) return
    if (node.type === nodes.placeholder)
      spans.push({
        text: String(node.attrs.fallback),
        placeholder: node.attrs.name as Placeholder,
        ...formatOf(node.marks),
      })
    else spans.push({ text: node.text ?? '\n', ...formatOf(node.marks) })
  })
  return tidied(spans)
}

function formatOf(all: readonly Mark[]): Omit<Span, 'text'> {
  const link = marks.link!.isInSet(all)
  return {
    ...(marks.bold!.isInSet(all) && { bold: true as const }),
    ...(marks.italic!.isInSet(all) && { italic: true as const }),
    ...(link && { link: String(link.attrs.href) }),
  }
}

import { type Block, FOLLOWABLE_LINK, type RichText, type Span } from '#core/text'
import { type Element, element, type Node } from './node'

/** The owner's rich text: its paragraphs and lists in one element. Nothing for one without blocks. */
export function richNode(rich: RichText, className: string): Node | false {
  const blocks = rich.map((block) =>
    block.kind === 'paragraph'
      ? element('p', {}, ...spanNodes(block.spans))
      : element(
          block.kind === 'bullets' ? 'ul' : 'ol',
          {},
          ...block.items.map((item) => element('li', {}, ...spanNodes(item))),
        ),
  )
  return blocks.length > 0 && element('div', { class: className }, ...blocks)
}

/** The same where only phrasing content may stand, such as inside a label: blocks become lines. */
export function richLine(rich: RichText): Node[] {
  const lines = rich.flatMap((block: Block) => (block.kind === 'paragraph' ? [block.spans] : block.items))
  return lines.flatMap((spans, at) => [...(at > 0 ? [element('br')] : []), ...spanNodes(spans)])
}

function spanNodes(spans: readonly Span[]): Node[] {
  return spans.map((span) => {
    const lines: Node[] = span.text
      .split('\n')
      .flatMap((line, at) => [...(at > 0 ? [element('br')] : []), ...(line === '' ? [] : [line])])
    let inner = lines
    if (span.italic) inner = [element('em', {}, ...inner)]
    if (span.bold) inner = [element('strong', {}, ...inner)]
    if (span.link !== undefined && FOLLOWABLE_LINK.test(span.link))
      inner = [element('a', { href: span.link }, ...inner)]
    return inner.length === 1 ? inner[0]! : fragmentOf(inner)
  })
}

/** Several nodes in the place of one. */
function fragmentOf(nodes: Node[]): Element {
  return element('', {}, ...nodes)
}

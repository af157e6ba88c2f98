import { defaultTreeAdapter as tree, type DefaultTreeAdapterTypes as Html } from 'parse5'

/*
 * HTML as one text that can be searched: an element's tag with its attributes in order, a text without surplus space,
 * the end of an element. Comments, styles' white space and the empty boxes that keep a place do not count.
 */
export const BETWEEN = '\u0001'

export function tokensOf(nodes: readonly Html.ChildNode[]): string {
  const tokens: string[] = []
  const visit = (node: Html.ChildNode) => {
    if (tree.isTextNode(node)) {
      const text = squeezed(node.value)
      if (text !== '') tokens.push(text)
    } else if (tree.isElementNode(node)) {
      if (node.tagName === 'canvas' || node.tagName === 'svg') return
      tokens.push(`<${node.tagName}${attributesOf(node)}>`)
      for (const child of node.childNodes) visit(child)
      tokens.push(`</${node.tagName}>`)
    }
  }
  for (const node of nodes) visit(node)
  return tokens.join(BETWEEN)
}

/** Whether a page holds a piece: its first and last texts may run together with the page's own. */
export function holds(page: string, piece: string): boolean {
  return piece !== '' && page.includes(piece)
}

export function squeezed(text: string): string {
  return text.replace(/\s+/g, ' ').trim()
}

function attributesOf({ attrs }: Html.Element): string {
  return attrs
    .map(({ name, value }) => ` ${name}=${name === 'style' ? value.replace(/\s+/g, '').replace(/;$/, '') : value}`)
    .sort()
    .join('')
}

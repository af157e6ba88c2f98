import { type DefaultTreeAdapterTypes as Tree, parse } from 'parse5'

/** An element of something pasted, as the HTML standard's parser sees it, whatever is wrong with the text. */
export interface PastedElement {
  name: string
  /** Character references are resolved; names in small letters. */
  attributes: ReadonlyMap<string, string>
  /** The text directly in it. */
  text: string
}

/** All elements of a page or a piece of one, in the order of the text, those within templates too. */
export function elementsIn(html: string): PastedElement[] {
  const elements: PastedElement[] = []
  const waiting: Tree.ChildNode[] = [...parse(html).childNodes].reverse()
  for (let node = waiting.pop(); node !== undefined; node = waiting.pop()) {
    if (!('tagName' in node)) continue
    elements.push({
      name: node.tagName,
      attributes: new Map(node.attrs.map(({ name, value }) => [name, value])),
      text: node.childNodes.map((child) => ('value' in child ? child.value : '')).join(''),
    })
    const children = 'content' in node ? node.content.childNodes : node.childNodes
    waiting.push(...[...children].reverse())
  }
  return elements
}

import { attributesOf, childrenInDom, type Element as Wanted } from '#core/render'

/** What the workshop adds to nodes of a preview; the rendering knows nothing of it. */
const ADDED = new Set(['title'])

/** Marks an element that an editor draws; its value is the class that the rendering gave it. */
export const HELD_BY_EDITOR = 'data-held-by-editor'

/**
 * Makes the shown tree equal to what was rendered by changing only what differs. Nodes that stay are the same
 * nodes, so focus, selection and the place from which the Tab key goes on are kept.
 */
export function morph(shown: Element, wanted: Wanted): void {
  if (shown.hasAttribute(HELD_BY_EDITOR)) return
  const attributes = attributesIn(wanted)
  for (const [name, value] of attributes) if (shown.getAttribute(name) !== value) shown.setAttribute(name, value)
  for (const { name } of [...shown.attributes])
    if (!attributes.has(name) && !ADDED.has(name)) shown.removeAttribute(name)
  const page = shown.ownerDocument
  const children = childrenInDom(wanted)
  for (const [at, node] of children.entries()) {
    const here = shown.childNodes[at]
    if (here === undefined) shown.append(domOf(node, page))
    else if (!isSameThing(here, node)) here.replaceWith(domOf(node, page))
    else if (typeof node !== 'string') morph(here as Element, node)
    else if (here.nodeValue !== node) here.nodeValue = node
  }
  while (shown.childNodes.length > children.length) shown.lastChild!.remove()
  morphState(shown, attributes)
}

function attributesIn(wanted: Wanted): Map<string, string> {
  return new Map(attributesOf(wanted).map(([name, value]) => [name, value === true ? '' : value]))
}

function domOf(node: Wanted | string, page: Document): Node {
  if (typeof node === 'string') return page.createTextNode(node)
  const made = page.createElement(node.tag)
  for (const [name, value] of attributesIn(node)) made.setAttribute(name, value)
  made.append(...childrenInDom(node).map((child) => domOf(child, page)))
  return made
}

/** An element of another class is another thing: turned into it, it would keep what was added to the old one. */
function isSameThing(here: Node, wanted: Wanted | string): boolean {
  if (typeof wanted === 'string') return here.nodeType === Node.TEXT_NODE
  return (
    here.nodeType === Node.ELEMENT_NODE &&
    (here as Element).localName === wanted.tag &&
    classOf(here as Element) === (wanted.attributes.class ?? '')
  )
}

function classOf(element: Element): string {
  return element.getAttribute(HELD_BY_EDITOR) ?? element.className
}

/** What was typed or ticked is no attribute any more, so it follows by itself. */
function morphState(shown: Element, wanted: ReadonlyMap<string, string>): void {
  switch (shown.tagName) {
    case 'INPUT': {
      const input = shown as HTMLInputElement
      if (input.type === 'checkbox' || input.type === 'radio') input.checked = wanted.has('checked')
      else if (input.value !== (wanted.get('value') ?? '')) input.value = wanted.get('value') ?? ''
      break
    }
    case 'TEXTAREA': {
      const area = shown as HTMLTextAreaElement
      if (area.value !== area.defaultValue) area.value = area.defaultValue
      break
    }
    case 'OPTION':
      ;(shown as HTMLOptionElement).selected = wanted.has('selected')
      break
  }
}

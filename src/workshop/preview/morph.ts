/** What the workshop adds to nodes of a preview; the rendering knows nothing of it. */
const ADDED = new Set(['title'])

/** Marks an element that an editor draws; its value is the class that the rendering gave it. */
export const HELD_BY_EDITOR = 'data-held-by-editor'

/**
 * Makes the shown tree equal to the wanted one by changing only what differs. Nodes that stay are the same
 * nodes, so focus, selection and the place from which the Tab key goes on are kept.
 */
export function morph(shown: Element, wanted: Element): void {
  if (shown.hasAttribute(HELD_BY_EDITOR)) return
  for (const { name, value } of wanted.attributes)
    if (shown.getAttribute(name) !== value) shown.setAttribute(name, value)
  for (const { name } of [...shown.attributes])
    if (!wanted.hasAttribute(name) && !ADDED.has(name)) shown.removeAttribute(name)
  const page = shown.ownerDocument
  for (const [at, node] of [...wanted.childNodes].entries()) {
    const here = shown.childNodes[at]
    if (here === undefined) shown.append(page.importNode(node, true))
    else if (!isSameThing(here, node)) here.replaceWith(page.importNode(node, true))
    else if (node.nodeType === Node.ELEMENT_NODE) morph(here as Element, node as Element)
    else if (here.nodeValue !== node.nodeValue) here.nodeValue = node.nodeValue
  }
  while (shown.childNodes.length > wanted.childNodes.length) shown.lastChild!.remove()
  morphState(shown, wanted)
}

/** An element of another class is another thing: turned into it, it would keep what was added to the old one. */
function isSameThing(here: Node, wanted: Node): boolean {
  return (
    here.nodeName === wanted.nodeName &&
    (here.nodeType !== Node.ELEMENT_NODE || classOf(here as Element) === (wanted as Element).className)
  )
}

function classOf(element: Element): string {
  return element.getAttribute(HELD_BY_EDITOR) ?? element.className
}

/** What was typed or ticked is no attribute any more, so it follows by itself. */
function morphState(shown: Element, wanted: Element): void {
  switch (shown.tagName) {
    case 'INPUT': {
      const input = shown as HTMLInputElement
      if (input.type === 'checkbox' || input.type === 'radio') input.checked = wanted.hasAttribute('checked')
      else if (input.value !== (wanted.getAttribute('value') ?? '')) input.value = wanted.getAttribute('value') ?? ''
      break
    }
    case 'TEXTAREA':
      if ((shown as HTMLTextAreaElement).value !== (wanted as HTMLTextAreaElement).value)
        (shown as HTMLTextAreaElement).value = (wanted as HTMLTextAreaElement).value
      break
    case 'OPTION':
      ;(shown as HTMLOptionElement).selected = wanted.hasAttribute('selected')
      break
  }
}

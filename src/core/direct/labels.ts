import { defaultTreeAdapter as tree, type DefaultTreeAdapterTypes as Html } from 'parse5'
import { ancestorsOf, attribute, elementsBelow, textIn } from '#core/submission'

const LONGEST = 200

/** White space as it is shown, stars and colons of labels left out. */
export function tidy(text: string): string {
  const words = text
    .replaceAll(/\s+/g, ' ')
    .split(' ')
    .filter((word) => word !== '' && word !== '*' && word !== ':')
    .join(' ')
  const start = words.startsWith('*') ? 1 : 0
  return words.slice(start, words.endsWith('*') || words.endsWith(':') ? -1 : undefined).slice(0, LONGEST)
}

const CONTROLS = new Set(['input', 'select', 'textarea', 'button'])

/**
 * What a control is called: by a label of its own (HTML, section 4.10.4), by ARIA, by its placeholder or title, and where
 * none is, by the text that stands just before it, as in layouts by tables; of boxes and radio buttons, just after.
 */
export function labelOf(control: Html.Element): string {
  const page = rootOf(control)
  const id = attribute(control, 'id')
  const all = elementsBelow(page)
  const own = id === null ? undefined : all.find((one) => one.tagName === 'label' && attribute(one, 'for') === id)
  const around = ancestorsOf(control).find(({ tagName }) => tagName === 'label')
  const labelledBy = (attribute(control, 'aria-labelledby') ?? '')
    .split(/\s+/)
    .map((name) => all.find((one) => name !== '' && attribute(one, 'id') === name))
    .flatMap((one) => (one === undefined ? [] : [textIn(one)]))
    .join(' ')
  const isTicked = ['checkbox', 'radio'].includes((attribute(control, 'type') ?? '').toLowerCase())
  const candidates = [
    own && ownText(own),
    around && ownText(around),
    labelledBy,
    attribute(control, 'aria-label'),
    isTicked ? textAfter(control) : null,
    attribute(control, 'placeholder'),
    attribute(control, 'title'),
    isTicked ? null : textBefore(control),
  ]
  return candidates.map((one) => tidy(one ?? '')).find((one) => one !== '') ?? ''
}

/** The words of a label, without those of a menu or a button in it. */
function ownText(label: Html.Element): string {
  return label.childNodes
    .map((child) =>
      tree.isTextNode(child)
        ? child.value
        : tree.isElementNode(child) && !CONTROLS.has(child.tagName)
          ? ownText(child)
          : '',
    )
    .join('')
}

function rootOf(element: Html.Element): Html.ParentNode {
  let at: Html.ParentNode = element
  while ('parentNode' in at && at.parentNode !== null) at = at.parentNode as Html.ParentNode
  return at
}

/** The nearest text before a control, in its cell, its row or its line; none behind another control. */
function textBefore(control: Html.Element): string {
  let at: Html.Element = control
  for (let steps = 0; steps < 4; steps += 1) {
    const parent = at.parentNode
    if (parent === null || !('childNodes' in parent)) return ''
    for (const node of parent.childNodes.slice(0, parent.childNodes.indexOf(at)).reverse()) {
      if (tree.isElementNode(node) && hasControl(node)) return ''
      const text = tidy(tree.isTextNode(node) ? node.value : tree.isElementNode(node) ? textIn(node) : '')
      if (text !== '') return text
    }
    if (!tree.isElementNode(parent) || parent.tagName === 'form') return ''
    at = parent
  }
  return ''
}

function textAfter(control: Html.Element): string {
  const parent = control.parentNode
  if (parent === null) return ''
  for (const node of parent.childNodes.slice(parent.childNodes.indexOf(control) + 1)) {
    if (tree.isElementNode(node) && hasControl(node)) return ''
    const text = tidy(tree.isTextNode(node) ? node.value : tree.isElementNode(node) ? textIn(node) : '')
    if (text !== '') return text
  }
  return ''
}

const hasControl = (node: Html.Element) =>
  CONTROLS.has(node.tagName) || elementsBelow(node).some(({ tagName }) => CONTROLS.has(tagName))

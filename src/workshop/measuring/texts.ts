import { textParts } from '#core/checkup'
import { opacityOf, type SeenColour, seenColour, styleOf } from './colours'

/** One text as a rendering shows it. */
export interface SeenText {
  /** Selector of the elements that have this text. */
  selector: string
  element: Element
  /** Its own colour, before all it stands in fades it. */
  colour: SeenColour
  /** "Large scale" as WCAG 2.2 has it. */
  isLarge: boolean
  box: DOMRect
}

const anyText = textParts.map(({ selector }) => selector).filter((selector) => !selector.startsWith('::'))

/** Every text that is in sight, and what visitors type or read in fields. */
export function textsIn(page: Document): SeenText[] {
  const root = page.querySelector('main') ?? page.querySelector('.askbox-card')
  if (root === null) return []
  const texts: SeenText[] = []
  const walker = page.createTreeWalker(root, NodeFilter.SHOW_TEXT)
  for (let node = walker.nextNode(); node !== null; node = walker.nextNode()) {
    const element = node.parentElement
    if (
      element === null ||
      node.textContent?.trim() === '' ||
      element.closest('style, script, select, textarea, iframe')
    )
      continue
    const holder = element.closest(anyText.join())
    if (holder === null || !isSeen(element)) continue
    const range = page.createRange()
    range.selectNodeContents(node)
    texts.push(seenText(element, selectorOf(element, holder), range.getBoundingClientRect()))
  }
  for (const control of page.querySelectorAll<HTMLInputElement>('.askbox-input')) {
    if (!isSeen(control)) continue
    const box = control.getBoundingClientRect()
    texts.push(seenText(control, '.askbox-input', box))
    if (control.placeholder) texts.push(seenText(control, '::placeholder', box, '::placeholder'))
  }
  return texts
}

/** In sight, and more than what is kept for screen readers. */
export function isSeen(element: Element): boolean {
  const { width, height } = element.getBoundingClientRect()
  return width > 1 && height > 1 && opacityOf(element) > 0 && element.checkVisibility({ visibilityProperty: true })
}

function seenText(element: Element, selector: string, box: DOMRect, pseudo?: string): SeenText {
  const style = styleOf(element, pseudo)
  const { hex, opacity } = seenColour(style.color)
  const size = Number.parseFloat(style.fontSize)
  return {
    selector,
    element,
    colour: { hex, opacity: pseudo === undefined ? opacity : opacity * Number(style.opacity) },
    isLarge: size >= 24 || (size >= 18.66 && Number(style.fontWeight) >= 700),
    box,
  }
}

/** Selector of a text's part of the form, or of the element inside it that has a colour of its own. */
function selectorOf(element: Element, holder: Element): string {
  const selector = anyText.find((one) => holder.matches(one))!
  return element === holder || styleOf(element).color === styleOf(holder).color
    ? selector
    : `${selector} ${element.localName}`
}

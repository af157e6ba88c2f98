import type { WireNode } from '#core/render'

/** Builds nodes one by one: neither a content policy nor Trusted Types has anything against that. */
export function built(wire: WireNode): Node {
  if (typeof wire === 'string') return document.createTextNode(wire)
  const [tag, attributes, ...children] = wire
  return element(tag, attributes, ...children.map(built))
}

export function element(tag: string, attributes: Record<string, string>, ...children: (Node | string)[]): HTMLElement {
  const node = document.createElement(tag)
  for (const [name, value] of Object.entries(attributes)) {
    // A policy may forbid style attributes, but not this.
    if (name === 'style') node.style.cssText = value
    else node.setAttribute(name, value)
  }
  node.append(...children)
  return node
}

export function adopt(root: Document | ShadowRoot, css: string): void {
  const sheet = new CSSStyleSheet()
  sheet.replaceSync(css)
  root.adoptedStyleSheets = [...root.adoptedStyleSheets, sheet]
}

/** The least height of a form's place, in CSS pixels; none lets it be as high as what is in it. */
export function keepRoom(place: HTMLElement, height?: number): void {
  const value = height === undefined ? '' : `${height}px`
  // In a tree of its own, the form's styles take this one from it; see there.
  place.style.setProperty('--askbox-room', value)
  place.style.minHeight = value
}

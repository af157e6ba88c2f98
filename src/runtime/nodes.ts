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

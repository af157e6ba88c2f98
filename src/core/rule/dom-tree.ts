import type { Tree } from './tree'

/** What is asked of the nodes of a browser’s page: so core needs no types of the DOM. */
interface DomNode {
  readonly nodeType: number
  readonly nodeValue: string | null
}
interface DomElement<E> extends DomNode {
  readonly localName: string
  readonly children: ArrayLike<E>
  readonly childNodes: ArrayLike<DomNode>
  readonly parentElement: E | null
  readonly textContent: string | null
  getAttribute(name: string): string | null
  matches(selector: string): boolean
}

const TEXT_NODE = 3

/**
 * A page in a browser.
 *
 * @param isOurs what was put there by us, and is no part of the page
 */
export function domTree<E extends DomElement<E>>(
  document: { readonly body: E; querySelectorAll(selector: string): ArrayLike<E> },
  isOurs: (element: E) => boolean,
): Tree<E> {
  const { body } = document
  return {
    body,
    tag: ({ localName }) => localName,
    attribute: (one, name) => one.getAttribute(name),
    children: ({ children }) => Array.from(children).filter((one) => !isOurs(one)),
    parent: (one) => (one === body ? null : one.parentElement),
    text: ({ textContent }) => textContent ?? '',
    ownText: ({ childNodes }) =>
      Array.from(childNodes, ({ nodeType, nodeValue }) => (nodeType === TEXT_NODE ? nodeValue : '')).join(''),
    select: (selector) => Array.from(document.querySelectorAll(selector)).filter((one) => !isOurs(one)),
    matches: (one, selector) => one.matches(selector),
  }
}

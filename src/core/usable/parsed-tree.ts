import { selectAll, is } from 'css-select'
import { defaultTreeAdapter as adapter, type DefaultTreeAdapterTypes as Html } from 'parse5'
import { attribute, elementsBelow, textIn } from '#core/submission'
import type { Tree } from '#core/rule'
import { treeAdapter } from './tree-adapter'

const OPTIONS = { adapter: treeAdapter, cacheResults: false }

/** A page as `parsePage` reads it. */
export function parsedTree(document: Html.Document): Tree<Html.Element> {
  const root = document.childNodes.filter(adapter.isElementNode)
  const body = elementsBelow(document).find(({ tagName }) => tagName === 'body') ?? root[0]!
  return {
    body,
    tag: ({ tagName }) => tagName,
    attribute,
    children: ({ childNodes }) => childNodes.filter(adapter.isElementNode),
    parent: (element) =>
      element === body || element.parentNode === null || !adapter.isElementNode(element.parentNode)
        ? null
        : element.parentNode,
    text: textIn,
    ownText: ({ childNodes }) =>
      childNodes
        .filter(adapter.isTextNode)
        .map(({ value }) => value)
        .join(''),
    select: (selector) => selectAll(selector, root, OPTIONS) as Html.Element[],
    matches: (element, selector) => is(element, selector, OPTIONS),
  }
}

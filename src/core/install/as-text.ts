import { defaultTreeAdapter as tree, type DefaultTreeAdapterTypes as Html } from 'parse5'
import { addressesOf } from './recognise'
import type { Mangling } from './manglings'
import type { ExpectedCode } from './report'

/**
 * Whether visitors read the code's tags as text, and what else was done to them: a tag that holds the code's address, in
 * what the page shows. Editors break its lines, make links of its addresses, and escape it twice; none of that matters here.
 */
export function readAsText(document: Html.Document, expected: ExpectedCode): Mangling[] | null {
  const { spot, receiver, code } = expected
  const addresses = code === 'plain' || code === 'in-tags' ? [`${receiver}/join/${spot.id}`] : addressesOf(expected)
  const shown = shownIn(document)
    .replace(/[\s\u00ad\u200b]/gu, '')
    .replaceAll('&lt;', '<')
    .replaceAll('&quot;', '"')
    .replaceAll('&amp;', '&')
  for (const address of addresses)
    for (let at = shown.indexOf(address); at >= 0; at = shown.indexOf(address, at + 1)) {
      const before = shown.slice(Math.max(0, at - LONGEST_TAG), at)
      const tag = before.slice(before.lastIndexOf('<'))
      if (/^<(?:a|script|iframe|form|button|div|link)/i.test(tag) && !tag.includes('>'))
        return /[“”„«»‘’]/.test(tag) ? ['curly-quotes', 'as-text'] : ['as-text']
    }
  return null
}

const LONGEST_TAG = 600
/** What stands in these is no text of the page: a script may hold tags to build. */
const UNSEEN = new Set(['script', 'style', 'template', 'noscript', 'title'])

function shownIn(node: Html.ParentNode): string {
  return node.childNodes
    .map((child) => {
      if (tree.isTextNode(child)) return child.value
      return tree.isElementNode(child) && !UNSEEN.has(child.tagName) ? shownIn(child) : ''
    })
    .join('')
}

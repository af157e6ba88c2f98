import { element, type Node, type Page } from '#core/render'

/** The body and head of a letter's markup, as the preview's frame takes them. */
export function pageOfMarkup(html: string): Page {
  const parsed = new DOMParser().parseFromString(html, 'text/html')
  // Head and body alone: white space between them is none of the page’s.
  return element('html', {}, nodeOf(parsed.head), nodeOf(parsed.body)) as Page
}

function nodeOf(node: ChildNode): Node | null {
  if (node.nodeType === document.TEXT_NODE) return node.nodeValue ?? ''
  if (node.nodeType !== document.ELEMENT_NODE) return null
  const { localName, attributes, childNodes } = node as Element
  return element(
    localName,
    Object.fromEntries([...attributes].map(({ name, value }) => [name, value])),
    ...[...childNodes].map(nodeOf),
  )
}

/** Which scheme a reader's program has: the owner's own window may have another. */
export function inScheme(html: string, isDark: boolean): string {
  return html.replace('@media (prefers-color-scheme: dark)', isDark ? '@media all' : '@media not all')
}

/** Pictures are not loaded: what a program shows before its reader allows them. */
export function withoutPictures(html: string): string {
  return html.replaceAll(/(<img\b[^>]{0,3000}?\bsrc=")[^"]{0,3000}"/g, '$1data:,"')
}

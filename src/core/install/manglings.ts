import { defaultTreeAdapter as tree, type DefaultTreeAdapterTypes as Html, parseFragment, serialize } from 'parse5'

/**
 * What editors and sanitizers of site builders do to code that is pasted into them: each from HTML to HTML. Common
 * practice among builders, no published source. The stand-in sites damage code with the same functions, and the install
 * check explains what it finds by them.
 */
export type Mangling =
  | 'as-text'
  | 'curly-quotes'
  | 'paragraphs'
  | 'no-forms'
  | 'no-scripts'
  | 'no-frames'
  | 'no-style-sheets'
  | 'no-style-attributes'
  | 'no-attributes'
  | 'links-only'

export const manglings: Record<Mangling, (html: string) => string> = {
  'as-text': (html) => html.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;'),
  'curly-quotes': curlyQuotes,
  paragraphs,
  'no-forms': (html) => without(html, { unwrapped: ['form', 'label', 'fieldset', 'legend'], dropped: CONTROLS }),
  'no-scripts': (html) => without(html, { dropped: ['script', 'noscript'] }),
  'no-frames': (html) => without(html, { dropped: ['iframe', 'object', 'embed'] }),
  'no-style-sheets': (html) => without(html, { dropped: ['style', 'link'] }),
  'no-style-attributes': (html) => without(html, { attributes: (name) => name === 'style' }),
  // As sanitizers do that know no classes and no ids: what is left says where links lead and what fields are.
  'no-attributes': (html) =>
    without(html, { attributes: (name) => name === 'style' || name === 'class' || name === 'id' || name === 'for' }),
  'links-only': (html) =>
    without(html, {
      kept: new Set(['a', 'p', 'br', 'b', 'strong', 'i', 'em', 'h1', 'h2', 'h3', 'ul', 'ol', 'li', 'blockquote']),
      dropped: ['style', 'script', 'noscript', 'iframe', 'object', 'embed', 'canvas', 'svg', ...CONTROLS],
      attributes: (name, tag) => tag !== 'a' || name !== 'href',
    }),
}

/** What several of them do one after the other. */
export function mangled(html: string, ...all: Mangling[]): string {
  return all.reduce((done, one) => manglings[one](done), html)
}

const CONTROLS = ['input', 'button', 'select', 'textarea', 'option', 'datalist', 'output']

interface Cleaning {
  /** Taken out with all that is in them. */
  dropped?: string[]
  /** Taken out, while what is in them stays. */
  unwrapped?: string[]
  /** When given, all others are unwrapped. */
  kept?: ReadonlySet<string>
  /** Which attributes are taken out. */
  attributes?: (name: string, tag: string) => boolean
}

function without(html: string, { dropped = [], unwrapped = [], kept, attributes }: Cleaning): string {
  const clean = (node: Html.ChildNode): Html.ChildNode[] => {
    if (tree.isCommentNode(node)) return kept === undefined ? [node] : []
    if (!tree.isElementNode(node)) return [node]
    if (dropped.includes(node.tagName)) return []
    node.childNodes = node.childNodes.flatMap(clean)
    for (const child of node.childNodes) child.parentNode = node
    if (attributes !== undefined) node.attrs = node.attrs.filter(({ name }) => !attributes(name, node.tagName))
    return unwrapped.includes(node.tagName) || (kept !== undefined && !kept.has(node.tagName))
      ? node.childNodes
      : [node]
  }
  const fragment = parseFragment(html)
  fragment.childNodes = fragment.childNodes.flatMap(clean)
  return serialize(fragment)
}

/** Straight quotes become curly ones, in tags as well: opening after space, `=` or `(`, else closing. */
function curlyQuotes(html: string): string {
  return html
    .replace(/(^|[\s=(>])"/g, '$1“')
    .replaceAll('"', '”')
    .replace(/(^|[\s=(>])'/g, '$1‘')
    .replaceAll("'", '’')
}

/** Empty lines part paragraphs, others become line breaks. */
function paragraphs(html: string): string {
  return html
    .trim()
    .split(/\n[ \t]*\n/)
    .map((part) => `<p>${part.trim().replace(/\n/g, '<br />\n')}</p>`)
    .join('\n')
}

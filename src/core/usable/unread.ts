import { is } from 'css-select'
import { type Atrule, type CssNode, type Declaration, generate, walk } from 'css-tree'
import { type DefaultTreeAdapterTypes as Html, html } from 'parse5'
import { parseSheet } from '#core/css'
import { ancestorsOf, attribute } from '#core/submission'
import { mayHide } from './may-hide'
import { treeAdapter } from './tree-adapter'

/** A rule that may hide something, and that only a browser can judge. */
export interface UnreadRule {
  selector: string
  /** What makes it so: “@container”, “nesting”, “var()”. */
  because: string
}

/** At-rules that hold no rules for elements of the page. */
const OTHER_AT_RULES = new Set(['keyframes', '-webkit-keyframes', 'font-face', 'page', 'property', 'counter-style'])
/** Media queries that ask for kinds of screens and widths alone; see `holdsAt`. */
const READ_MEDIA = /^(?:only )?(?:all|screen|print)$|^\((?:min|max)-width ?: ?[\d.]{1,8}(?:px|em|rem)\)$/

/** Rules and styles of our own code: what an editor made of them is looked at elsewhere. */
const OURS = /^all:\s*revert|\.askbox-at-/

/**
 * What `ownHiding` (visibility.ts) judges for itself, with the cascade, of rules without conditions: the properties, as far as
 * their values are plain.
 */
const JUDGED = new Map<string, RegExp>([
  ['display', /^none$/],
  ...['visibility', 'pointer-events', 'content-visibility'].map((name) => [name, /./] as const),
  ...['width', 'max-width', 'height', 'max-height', 'left', 'top', 'margin-left', 'margin-top', 'margin'].map(
    (name) => [name, /^(?:-?[\d.]+(?:px|em|rem|%|vw|vh)?(?: |$))+$/] as const,
  ),
])

/** Elements of HTML whose contents browsers always show, as far as styles let them (HTML, section 15.3). */
const SHOWING = new Set(
  `html body main header footer nav aside section article address hgroup search h1 h2 h3 h4 h5 h6 p pre blockquote div center
  ul ol dl li dt dd menu dir figure figcaption table caption colgroup thead tbody tfoot tr td th form fieldset legend label
  details summary dialog a abbr acronym b bdi bdo big cite code data del dfn em font i ins kbd map mark nobr output q s samp
  small span strike strong sub sup time tt u var askbox-form`.split(/\s+/),
)

/**
 * Rules of style sheets that may hide what they match and that are not read here: under conditions, nested, by `:has()`, by
 * variables, by an animation whose keyframes hide, or by properties whose effect only a browser knows.
 */
export function unreadRules(sheets: readonly string[]): UnreadRule[] {
  return sheets.flatMap((css) => unreadIn(css))
}

/** The first of them that matches an element or something around it, or what it stands in by itself; null for none. */
export function unreadOver(element: Html.Element, rules: readonly UnreadRule[]): UnreadRule | null {
  const around = ancestorsOf(element)
  for (const one of [element, ...around]) {
    const rule = rules.find(({ selector }) => matches(one, selector))
    if (rule !== undefined) return rule
    const style = attribute(one, 'style')
    const [own] = style === null || OURS.test(style) ? [] : unreadIn(`x{${style}}`)
    if (own !== undefined) return { selector: `style="${style!.slice(0, 60)}"`, because: own.because }
  }
  const strange = around.find((one) => one.namespaceURI !== html.NS.HTML || !SHOWING.has(one.tagName))
  return strange === undefined
    ? null
    : { selector: `<${strange.tagName}>`, because: 'not every browser shows what stands in it' }
}

/** @param outer the selector that the sheet is nested in */
function unreadIn(css: string, outer?: string): UnreadRule[] {
  let sheet: CssNode
  try {
    sheet = parseSheet(css)
  } catch {
    return []
  }
  const hiding = hidingKeyframes(sheet)
  const rules: UnreadRule[] = []
  const around: Atrule[] = []
  const parents: string[] = outer === undefined ? [] : [outer]
  walk(sheet, {
    enter(node: CssNode) {
      if (node.type === 'Atrule') around.push(node)
      if (node.type !== 'Rule') return
      const own = node.prelude.type === 'SelectorList' ? generate(node.prelude) : ''
      const parent = parents.at(-1)
      const selector = parent === undefined ? own : nestedIn(parent, own)
      parents.push(selector)
      if (around.some(({ name }) => OTHER_AT_RULES.has(name.toLowerCase()))) return
      const condition = around.find((one) => !isRead(one))
      for (const declaration of node.block.children.toArray()) {
        // A nested rule without a sign is left as text by the parser.
        if (declaration.type === 'Raw' && declaration.value.includes('{'))
          rules.push(...unreadIn(declaration.value, selector))
        if (declaration.type !== 'Declaration') continue
        const because = !hides(declaration, hiding)
          ? null
          : condition !== undefined
            ? `@${condition.name.toLowerCase()}`
            : parent !== undefined
              ? 'nesting'
              : /:has\(/i.test(selector)
                ? ':has()'
                : byItself(declaration)
        if (because !== null && !OURS.test(selector)) rules.push({ selector, because })
      }
    },
    leave(node: CssNode) {
      if (node.type === 'Atrule') around.pop()
      if (node.type === 'Rule') parents.pop()
    },
  })
  return rules
}

/** Whether the reading knows where an at-rule's contents hold. */
function isRead({ name, prelude }: Atrule): boolean {
  if (name.toLowerCase() !== 'media') return false
  const queries = prelude === null ? 'all' : generate(prelude).toLowerCase()
  return queries.split(',').every((one) => one.split(/\band\b/).every((part) => READ_MEDIA.test(part.trim())))
}

const valueOf = ({ value }: Declaration) => generate(value).trim().toLowerCase()

function hides(declaration: Declaration, hidingAnimations: ReadonlySet<string>): boolean {
  const [name, value] = [declaration.property.toLowerCase(), valueOf(declaration)]
  return /^(?:-webkit-)?animation(?:-name)?$/.test(name)
    ? value.split(/[\s,]+/).some((word) => hidingAnimations.has(word))
    : mayHide(name, value, Boolean(declaration.important))
}

/** Why a declaration that holds without conditions is not judged; null for one that is. */
function byItself(declaration: Declaration): string | null {
  const [name, value] = [declaration.property.toLowerCase(), valueOf(declaration)]
  if (value.includes('var(')) return 'var()'
  if (/animation/.test(name)) return 'an animation'
  return JUDGED.get(name)?.test(value) === true ? null : `${name}: ${value}`.slice(0, 60)
}

/** Names of animations some of whose keyframes hide. */
function hidingKeyframes(sheet: CssNode): Set<string> {
  const names = new Set<string>()
  walk(sheet, (node: CssNode) => {
    if (node.type !== 'Atrule' || !/keyframes$/i.test(node.name) || node.prelude === null) return
    const name = generate(node.prelude).trim().toLowerCase()
    walk(node, (inner: CssNode) => {
      if (inner.type === 'Declaration' && hides(inner, new Set())) names.add(name)
    })
  })
  return names
}

/** CSS Nesting Module, section 3. */
function nestedIn(parent: string, own: string): string {
  return own
    .split(',')
    .map((one) => (one.includes('&') ? one.replaceAll('&', `:is(${parent})`) : `:is(${parent}) ${one}`))
    .join(', ')
}

function matches(element: Html.Element, selector: string): boolean {
  try {
    return is<Html.Node, Html.Element>(element, selector, { adapter: treeAdapter })
  } catch {
    return false
  }
}

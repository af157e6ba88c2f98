import { is } from 'css-select'
import { type Atrule, type CssNode, generate, walk } from 'css-tree'
import type { DefaultTreeAdapterTypes as Html } from 'parse5'
import { parseSheet } from '#core/css'
import { ancestorsOf } from '#core/submission'
import { treeAdapter } from './tree-adapter'

/** A rule that may hide something, and that only a browser can judge. */
export interface UnreadRule {
  selector: string
  /** What makes it so: “@container”, “nesting”, “var()”. */
  because: string
}

/** At-rules whose contents hold always, or at widths that are looked at. */
const READ_AT_RULES = new Set(['media'])
/** At-rules that hold no rules for elements of the page. */
const OTHER_AT_RULES = new Set(['keyframes', '-webkit-keyframes', 'font-face', 'page', 'property', 'counter-style'])

/**
 * Rules of style sheets that may hide what they match and that are not read here: within `@supports`, `@container`, `@layer`
 * or `@scope`, nested, by `:has()`, by variables, or by an animation whose keyframes hide.
 */
export function unreadRules(sheets: readonly string[]): UnreadRule[] {
  return sheets.flatMap((css) => unreadIn(css))
}

/** The first of them that matches an element or something around it; null for none. */
export function unreadOver(element: Html.Element, rules: readonly UnreadRule[]): UnreadRule | null {
  for (const one of [element, ...ancestorsOf(element)]) {
    const rule = rules.find(({ selector }) => matches(one, selector))
    if (rule !== undefined) return rule
  }
  return null
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
      const condition = around.find(({ name }) => !READ_AT_RULES.has(name.toLowerCase()))
      for (const declaration of node.block.children.toArray()) {
        // A nested rule without a sign is left as text by the parser.
        if (declaration.type === 'Raw' && declaration.value.includes('{'))
          rules.push(...unreadIn(declaration.value, selector))
        if (declaration.type !== 'Declaration') continue
        const property = declaration.property.toLowerCase()
        const value = generate(declaration.value).trim().toLowerCase()
        const because = mayHide(property, value, hiding)
          ? condition !== undefined
            ? `@${condition.name.toLowerCase()}`
            : parent !== undefined
              ? 'nesting'
              : /:has\(/i.test(selector)
                ? ':has()'
                : value.includes('var(')
                  ? 'var()'
                  : /^animation(?:-name)?$/.test(property)
                    ? 'an animation'
                    : null
          : null
        if (because !== null) rules.push({ selector, because })
      }
    },
    leave(node: CssNode) {
      if (node.type === 'Atrule') around.pop()
      if (node.type === 'Rule') parents.pop()
    },
  })
  return rules
}

/** Names of animations some of whose keyframes hide. */
function hidingKeyframes(sheet: CssNode): Set<string> {
  const names = new Set<string>()
  walk(sheet, (node: CssNode) => {
    if (node.type !== 'Atrule' || !/keyframes$/i.test(node.name) || node.prelude === null) return
    const name = generate(node.prelude).trim().toLowerCase()
    walk(node, (inner: CssNode) => {
      if (inner.type !== 'Declaration') return
      if (mayHide(inner.property.toLowerCase(), generate(inner.value).trim().toLowerCase(), new Set())) names.add(name)
    })
  })
  return names
}

/** Whether a declaration can take something out of sight or reach. */
function mayHide(property: string, value: string, hidingAnimations: ReadonlySet<string>): boolean {
  const isOpen = value.includes('var(')
  const isSmall = () => isOpen || (/^-?[\d.]/.test(value) && Number.parseFloat(value) < 2)
  const isFar = () => isOpen || value.split(/\s+/).some((one) => Number.parseFloat(one) < -99)
  switch (property) {
    case 'display':
      return isOpen || value === 'none'
    case 'visibility':
      return isOpen || value === 'hidden' || value === 'collapse'
    case 'opacity':
      return isOpen || Number.parseFloat(value) < 0.3
    case 'content-visibility':
      return isOpen || value === 'hidden'
    case 'pointer-events':
      return isOpen || value === 'none'
    case 'height':
    case 'max-height':
    case 'width':
    case 'max-width':
    case 'scale':
      return isSmall()
    case 'clip':
      return value !== 'auto'
    case 'clip-path':
    case 'mask':
    case 'mask-image':
      return value !== 'none'
    case 'filter':
      return isOpen || /opacity|blur|brightness|contrast/.test(value)
    case 'left':
    case 'top':
    case 'margin':
    case 'margin-left':
    case 'margin-top':
    case 'translate':
      return isFar()
    case 'transform':
      return isOpen || /scale[xy3d]*\(0|-\d{3,}|-[1-9]\d{2,}%|rotate[xy]\(90/.test(value)
    case 'animation':
    case 'animation-name':
      return value.split(/[\s,]+/).some((word) => hidingAnimations.has(word))
    default:
      return false
  }
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

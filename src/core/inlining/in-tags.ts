import { is } from 'css-select'
import { generate, walk } from 'css-tree'
import { parseSheet } from '#core/css'
import {
  type Element,
  element,
  formStyles,
  type Node,
  PLACE_STYLE,
  type PlacedForm,
  renderForm,
  toHtml,
} from '#core/render'

/**
 * The plain code with its styles in the tags, for sites that take style sheets out. What only a style sheet can say is
 * left out: how things look under the pointer or on phones, and fields that depend on an answer are asked of everybody.
 * Ends with a line break.
 */
export function inTagsCode(placed: PlacedForm): string {
  const card = withoutSheet(renderForm(placed))
  const parents = new Map<Element, Element>()
  const note = (parent: Element) => {
    for (const child of elementsIn(parent)) {
      parents.set(child, parent)
      note(child)
    }
  }
  note(card)
  const rules = simpleRules(formStyles(placed))
  const properties = new Map(
    rules.flatMap(({ declarations }) => declarations.filter(([name]) => name.startsWith('--askbox-'))),
  )
  const known = (value: string) =>
    value.replace(/var\((--[\w-]+)\)/g, (whole, name: string) => properties.get(name) ?? whole)

  const styled = (node: Node): Node => {
    if (typeof node === 'string') return node
    const applied = new Map<string, string>()
    for (const { selector, declarations } of rules)
      if (matches(node, selector, parents))
        for (const [name, value] of declarations) {
          if (name.startsWith('--')) continue
          // What is said later counts; in the order of its last saying, so that a part comes after its whole.
          if (applied.get(name)?.endsWith('!important') && !value.endsWith('!important')) continue
          applied.delete(name)
          applied.set(name, known(value))
        }
    const own = typeof node.attributes.style === 'string' ? node.attributes.style.split(';') : []
    const style = [
      ...[...applied].map(([name, value]) => `${name}:${value}`),
      ...own.filter((one) => !applied.has(one.split(':')[0]!)),
    ]
    return {
      ...node,
      attributes: { ...node.attributes, style: style.length === 0 ? undefined : style.join(';') },
      children: node.children.map(styled),
    }
  }
  const html = toHtml(element('div', { style: PLACE_STYLE }, styled(card)))
  return `<!-- Words and colours may be changed by hand. -->\n${html.replace(/\n(?=[ \t]*\n)/g, '&#10;')}\n`
}

interface SimpleRule {
  selector: string
  declarations: [name: string, value: string][]
}

/** The rules that hold for elements as they stand, in the order in which they count. */
function simpleRules(css: string): SimpleRule[] {
  const matching: (SimpleRule & { weight: number })[] = []
  walk(parseSheet(css), {
    visit: 'Rule',
    enter(rule) {
      if (this.atrule !== null || rule.prelude.type !== 'SelectorList') return
      const declarations = rule.block.children.toArray().flatMap((one): [string, string][] => {
        if (one.type !== 'Declaration') return []
        return [[one.property, `${generate(one.value)}${one.important ? ' !important' : ''}`]]
      })
      for (const one of rule.prelude.children.toArray()) {
        const selector = generate(one)
        if (/::|:(hover|focus|has|active|checked|disabled|invalid)/.test(selector)) continue
        matching.push({ selector, declarations, weight: weightOf(selector) })
      }
    },
  })
  return matching.sort((one, other) => one.weight - other.weight)
}

/** Classes and attributes count for more than tags; the ids that all selectors begin with are the same in each. */
function weightOf(selector: string): number {
  const classes = selector.match(/[.[]|:(?!not)/g)?.length ?? 0
  const tags = selector.match(/(?:^|[\s>+~])[a-z]/g)?.length ?? 0
  return classes * 100 + tags
}

function matches(node: Element, selector: string, parents: ReadonlyMap<Element, Element>): boolean {
  return is<Node, Element>(node, selector, {
    adapter: {
      isTag: (one): one is Element => typeof one !== 'string',
      getAttributeValue: ({ attributes }, name) => {
        const value = attributes[name]
        return value === true ? '' : value === false ? undefined : value
      },
      getChildren: (one) => (typeof one === 'string' ? [] : one.children),
      getName: ({ tag }) => tag,
      getParent: (one) => parents.get(one) ?? null,
      getSiblings: (one) => (typeof one === 'string' ? [one] : (parents.get(one)?.children ?? [one])),
      getText: () => '',
      hasAttrib: ({ attributes }, name) => attributes[name] !== undefined && attributes[name] !== false,
      removeSubsets: (nodes) => nodes,
    },
  })
}

function elementsIn({ children }: Element): Element[] {
  return children.filter((child) => typeof child !== 'string')
}

/** The form without its style sheet, and with what stands in the place of several nodes opened. */
function withoutSheet(parent: Element): Element {
  const children = parent.children.flatMap((child): Node[] => {
    if (typeof child === 'string') return [child]
    if (child.tag === 'style') return []
    const inner = withoutSheet(child)
    return child.tag === '' ? inner.children : [inner]
  })
  return { ...parent, children }
}

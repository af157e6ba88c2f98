import { is } from 'css-select'
import { type Atrule, type CssNode, generate, walk } from 'css-tree'
import { defaultTreeAdapter as tree, type DefaultTreeAdapterTypes as Html } from 'parse5'
import { parseSheet } from '#core/css'
import { ancestorsOf, attribute, elementsBelow, textIn } from '#core/submission'

interface Hiding {
  selector: string
  property: string
  value: string
  isImportant: boolean
  /** Ids, classes, tags: CSS Selectors Level 4, section 17. */
  specificity: [number, number, number]
  order: number
}

/** The widths of screens that pages are looked at: a desk's, and a phone's. */
const WIDTHS = [1280, 390] as const

/**
 * Whether something of a page can be seen, as far as style sheets tell, on a desk and on a phone. Sheets in files of their
 * own are given as texts.
 */
export interface Visibility {
  /** The selector or attribute that hides an element or something around it; null for what is seen. */
  hiddenBy(element: Html.Element): string | null
}

export function visibilityOn(page: Html.ParentNode, moreSheets: readonly string[] = []): Visibility {
  const sheets = [
    ...elementsBelow(page)
      .filter(({ tagName }) => tagName === 'style')
      .map(textIn),
    ...moreSheets,
  ]
  const everywhere = sheets.flatMap((css) => rulesIn(css))
  const byWidth = WIDTHS.map((width) =>
    everywhere
      .filter(({ media }) => media.every((query) => holdsAt(query, width)))
      .map((rule, order) => ({ ...rule, order })),
  )
  return {
    hiddenBy(element) {
      for (const [at, rules] of byWidth.entries())
        for (const one of [element, ...ancestorsOf(element)]) {
          const by = ownHiding(one, rules)
          if (by !== null) return at === 0 ? by : `${by}, on a screen of ${WIDTHS[at]} px`
        }
      return null
    },
  }
}

/**
 * Whether a media query list holds on a screen of a width, as far as it asks for screens and widths; what asks for more
 * (hover, dark, print) is taken not to. Media Queries Level 4.
 */
export function holdsAt(query: string, width: number): boolean {
  return query.split(',').some((one) =>
    one
      .toLowerCase()
      .split(/\band\b/)
      .map((part) => part.trim())
      .every((part) => {
        if (/^(?:only )?(?:all|screen)$/.test(part)) return true
        const [, edge, amount, unit] = /^\((min|max)-width ?: ?(\d{1,6}(?:\.\d{1,6})?)(px|em|rem)\)$/.exec(part) ?? []
        if (edge === undefined) return false
        const bound = Number(amount) * (unit === 'px' ? 1 : 16)
        return edge === 'min' ? width >= bound : width <= bound
      }),
  )
}

/** Rules about what is shown at all, each with the media queries it stands in. What holds under other conditions is left out. */
function rulesIn(css: string): (Omit<Hiding, 'order'> & { media: string[] })[] {
  const found: (Omit<Hiding, 'order'> & { media: string[] })[] = []
  const around: Atrule[] = []
  let sheet: CssNode
  try {
    sheet = parseSheet(css)
  } catch {
    return []
  }
  walk(sheet, {
    enter(node: CssNode) {
      if (node.type === 'Atrule') around.push(node)
      if (node.type !== 'Rule') return
      const rule = node
      if (rule.prelude.type !== 'SelectorList') return
      if (!around.every(({ name }) => name.toLowerCase() === 'media')) return
      const media = around.map(({ prelude }) => (prelude === null ? 'all' : generate(prelude)))
      for (const one of rule.block.children.toArray()) {
        if (one.type !== 'Declaration' || !WATCHED.has(one.property.toLowerCase())) continue
        for (const selector of rule.prelude.children.toArray()) {
          const text = generate(selector)
          if (/::|:(hover|focus|active|target|visited|checked|invalid|has)/.test(text)) continue
          found.push({
            selector: text,
            property: one.property.toLowerCase(),
            value: generate(one.value).trim().toLowerCase(),
            isImportant: Boolean(one.important),
            specificity: specificityOf(selector),
            media,
          })
        }
      }
    },
    leave(node: CssNode) {
      if (node.type === 'Atrule') around.pop()
    },
  })
  return found
}

const WATCHED = new Set(['display', 'visibility', 'opacity', 'all'])

function ownHiding(element: Html.Element, rules: readonly Hiding[]): string | null {
  const matching = rules.filter(({ selector }) => matches(element, selector))
  const inline = inlineOf(element)
  for (const property of ['display', 'visibility', 'opacity']) {
    const winner = [...matching, ...inline]
      .filter((one) => one.property === property || (one.property === 'all' && property === 'display'))
      .sort(weaker)
      .at(-1)
    const value = winner?.property === 'all' ? undefined : winner?.value
    if (
      value === 'none' ||
      value === 'hidden' ||
      (property === 'opacity' && Number(value) === 0 && value !== undefined)
    )
      return winner!.selector
    if (property === 'display' && value === undefined && attribute(element, 'hidden') !== null) return 'hidden'
  }
  return null
}

function inlineOf(element: Html.Element): Hiding[] {
  const style = attribute(element, 'style')
  if (style === null) return []
  return rulesIn(`x{${style}}`).map((rule, order) => ({
    ...rule,
    selector: `style="${style.slice(0, 60)}"`,
    specificity: [1_000_000, 0, 0],
    order,
  }))
}

/** CSS Cascading and Inheritance Level 4, section 6.1, within the author's styles. */
function weaker(one: Hiding, other: Hiding): number {
  if (one.isImportant !== other.isImportant) return one.isImportant ? 1 : -1
  for (const at of [0, 1, 2] as const)
    if (one.specificity[at] !== other.specificity[at]) return one.specificity[at] - other.specificity[at]
  return one.order - other.order
}

function specificityOf(selector: CssNode): [number, number, number] {
  let [ids, classes, tags] = [0, 0, 0]
  walk(selector, {
    enter(node: CssNode) {
      switch (node.type) {
        case 'IdSelector':
          ids += 1
          break
        case 'ClassSelector':
        case 'AttributeSelector':
          classes += 1
          break
        case 'TypeSelector':
          if (node.name !== '*') tags += 1
          break
        case 'PseudoClassSelector':
          if (node.name === 'where') return walk.skip
          // Of :is, :not and :has, what stands in them counts.
          if (!['is', 'not', 'has'].includes(node.name)) classes += 1
          break
        case 'PseudoElementSelector':
          tags += 1
          break
      }
      return undefined
    },
  })
  return [ids, classes, tags]
}

function matches(element: Html.Element, selector: string): boolean {
  try {
    return is<Html.Node, Html.Element>(element, selector, { adapter })
  } catch {
    return false
  }
}

const adapter = {
  isTag: (node: Html.Node): node is Html.Element => tree.isElementNode(node),
  getAttributeValue: (element: Html.Element, name: string) => attribute(element, name) ?? undefined,
  getChildren: (node: Html.Node) => ('childNodes' in node ? node.childNodes : []),
  getName: (element: Html.Element) => element.tagName,
  getParent: (node: Html.Node) => ('parentNode' in node ? ((node.parentNode as Html.Element | null) ?? null) : null),
  getSiblings: (node: Html.Node) =>
    'parentNode' in node && node.parentNode ? (node.parentNode as Html.Element).childNodes : [node],
  getText: () => '',
  hasAttrib: (element: Html.Element, name: string) => attribute(element, name) !== null,
  removeSubsets: (nodes: Html.Node[]) => nodes,
}

import { calculateForAST } from '@bramus/specificity/core'
import { is } from 'css-select'
import { type Atrule, type CssNode, generate, walk } from 'css-tree'
import type { DefaultTreeAdapterTypes as Html } from 'parse5'
import { parseSheet } from '#core/css'
import { ancestorsOf, attribute, elementsBelow, textIn } from '#core/submission'
import { treeAdapter } from './tree-adapter'
import { unreadOver, type UnreadRule, unreadRules } from './unread'

interface Hiding {
  selector: string
  property: string
  value: string
  isImportant: boolean
  /** Ids, classes, tags: CSS Selectors Level 4, section 17. */
  specificity: readonly [number, number, number]
  order: number
}

/** The widths of screens that pages are looked at: a desk's, and a phone's. */
const WIDTHS = [1280, 390] as const

/**
 * Whether something of a page can be seen and pressed, as far as markup and style sheets tell, on a desk and on a phone.
 * What is behind a press, as in a closed `details`, can. Sheets in files of their
 * own are given as texts.
 */
export interface Visibility {
  /**
   * The selector or attribute that hides an element or something around it; null for what is seen.
   *
   * @param how `isReset` for what takes nothing that is handed down, as our own element does; `isOnlySeen` where it does not
   *   matter whether it can be pressed
   */
  hiddenBy(element: Html.Element, how?: { isReset?: boolean; isOnlySeen?: boolean }): string | null
  /** A rule over an element that may hide it and that only a browser can judge; null for none. */
  unread(element: Html.Element): UnreadRule | null
}

export function visibilityOn(page: Html.ParentNode, moreSheets: readonly string[] = []): Visibility {
  const sheets = [
    ...elementsBelow(page)
      .filter(({ tagName }) => tagName === 'style')
      .map(textIn),
    ...moreSheets,
  ]
  const everywhere = sheets.flatMap((css) => rulesIn(css))
  const unread = unreadRules(sheets)
  const byWidth = WIDTHS.map((width) =>
    everywhere
      .filter(({ media }) => media.every((query) => holdsAt(query, width)))
      .map((rule, order) => ({ ...rule, order })),
  )
  const winners = byWidth.map(() => new Map<Html.Element, Winners>())
  return {
    unread: (element) => unreadOver(element, unread),
    hiddenBy(element, { isReset = false, isOnlySeen = false } = {}) {
      const all = [element, ...ancestorsOf(element)]
      for (const [at, rules] of byWidth.entries()) {
        const winnersThere = winners[at]!
        const of = all.map((one) => {
          const winning = winnersThere.get(one) ?? winnersOf(one, rules)
          winnersThere.set(one, winning)
          return winning
        })
        const by =
          all.map((one, at) => ownHiding(one, of[at]!, isOnlySeen)).find((one) => one !== null) ??
          (isReset ? null : handedDown(of, 'visibility', ['hidden', 'collapse'])) ??
          (isReset || isOnlySeen ? null : handedDown(of, 'pointer-events', ['none']))
        if (by !== null && by !== undefined) return at === 0 ? by : `${by}, on a screen of ${WIDTHS[at]} px`
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
  const rules: (Omit<Hiding, 'order'> & { media: string[] })[] = []
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
          rules.push({
            selector: text,
            property: one.property.toLowerCase(),
            value: generate(one.value).trim().toLowerCase(),
            isImportant: Boolean(one.important),
            specificity: calculateForAST(selector).toArray(),
            media,
          })
        }
      }
    },
    leave(node: CssNode) {
      if (node.type === 'Atrule') around.pop()
    },
  })
  return rules
}

const WATCHED = new Set([
  'all',
  'display',
  'visibility',
  'opacity',
  'filter',
  'height',
  'max-height',
  'width',
  'max-width',
  'overflow',
  'overflow-x',
  'overflow-y',
  'clip',
  'clip-path',
  'position',
  'left',
  'top',
  'margin',
  'margin-left',
  'margin-top',
  'transform',
  'translate',
  'scale',
  'content-visibility',
  'pointer-events',
])
/** Of the elements that can hold others, those that browsers display nothing of: HTML, section 15.3.1. */
const UNRENDERED = new Set(['datalist', 'noembed', 'noframes', 'rp', 'title'])
/** What stands in these is for browsers that do not know them. */
const REPLACED = new Set(['canvas', 'video', 'audio'])
/** CSS pixels: less shows nothing. */
const LEAST = 2
/** CSS pixels to the left or above, beyond any screen. */
const FAR = -999

type Winners = ReadonlyMap<string, Hiding>

/** What holds of an element by the sheets and its own attribute, property by property. */
function winnersOf(element: Html.Element, rules: readonly Hiding[]): Winners {
  const byProperty = new Map<string, Hiding>()
  for (const one of [...rules.filter(({ selector }) => matches(element, selector)), ...inlineOf(element)].sort(
    weaker,
  )) {
    // `all` undoes what weaker rules said.
    if (one.property === 'all') byProperty.clear()
    else byProperty.set(one.property, one)
  }
  return byProperty
}

/** What of an element alone keeps it and all in it from being seen or pressed; null for nothing. */
function ownHiding(element: Html.Element, winners: Winners, isOnlySeen: boolean): string | null {
  const value = (property: string) => winners.get(property)?.value ?? ''
  const by = (...properties: string[]) => properties.map((one) => winners.get(one)?.selector).find(Boolean) ?? ''
  const has = (name: string) => attribute(element, name) !== null
  const length = (property: string) => {
    const match = /^(-?(?:\d+(?:\.\d+)?|\.\d+))(px|em|rem|%|vw|vh)?$/.exec(value(property))
    if (match === null) return null
    const amount = Number(match[1])
    return ['em', 'rem'].includes(match[2] ?? '')
      ? amount * 16
      : ['vw', 'vh', '%'].includes(match[2] ?? '')
        ? amount * 10
        : amount
  }
  if (value('display') === 'none') return by('display')
  if (!winners.has('display')) {
    if (UNRENDERED.has(element.tagName)) return `<${element.tagName}>`
    if (has('hidden') && attribute(element, 'hidden') !== 'until-found') return 'hidden'
    if (has('popover')) return 'popover'
    if (element.tagName === 'dialog' && !has('open')) return 'a closed <dialog>'
  }
  if (attribute(element, 'hidden') === 'until-found' && value('content-visibility') === '')
    return 'hidden="until-found"'
  if (has('inert') && !isOnlySeen) return 'inert'
  if (element.tagName === 'object' && (has('data') || has('type'))) return '<object>'
  if (REPLACED.has(element.tagName)) return `<${element.tagName}>`
  if (value('opacity') !== '' && opacityOf(value('opacity')) < 0.05) return by('opacity')
  const filtered = /opacity\(([^)]*)\)/.exec(value('filter'))
  if (filtered !== null && opacityOf(filtered[1]!) < 0.05) return by('filter')
  if (value('content-visibility') === 'hidden') return by('content-visibility')
  const [across = '', down = across] = value('overflow').split(' ')
  const cuts = (way: string, more: string) => /^(?:hidden|clip)$/.test(value(more) || way)
  const isFlat = (...sizes: string[]) => sizes.some((one) => (length(one) ?? LEAST) < LEAST)
  if (isFlat('height', 'max-height') && (cuts(down, 'overflow-y') || element.tagName === 'iframe'))
    return by('height', 'max-height')
  if (isFlat('width', 'max-width') && (cuts(across, 'overflow-x') || element.tagName === 'iframe'))
    return by('width', 'max-width')
  if (element.tagName === 'iframe')
    for (const side of ['width', 'height'])
      if (!winners.has(side) && has(side) && Number(attribute(element, side)) < LEAST)
        return `${side}="${attribute(element, side)}"`
  if (/^(?:inset\((?:[5-9]\d|100)%|circle\(0|ellipse\(0|polygon\(0(?:px|%)? 0(?:px|%)?\))/.test(value('clip-path')))
    return by('clip-path')
  const isPlaced = /^(?:absolute|fixed)$/.test(value('position'))
  if (isPlaced && /^rect\((?:[01](?:px)?[, ]*){4}\)$/.test(value('clip'))) return by('clip')
  if (isPlaced || value('position') === 'relative')
    for (const side of ['left', 'top']) if ((length(side) ?? 0) < FAR) return by(side)
  // With a share of its parent, a margin may as well make a box wider as move it: only a browser tells.
  for (const side of ['margin-left', 'margin-top'])
    if (!value(side).endsWith('%') && (length(side) ?? 0) < FAR) return by(side)
  if (
    value('margin')
      .split(' ')
      .some((one) => !one.endsWith('%') && parseFloat(one) < FAR)
  )
    return by('margin')
  const moved = `${value('transform')} ${value('translate')}`
  if (/scale[xy3d]*\(0(?:[,)]|\.0+\b)/.test(value('transform')) || /^0(?:$| )/.test(value('scale')))
    return by('transform', 'scale')
  if ([...moved.matchAll(/-\d{4,}(?:\.\d+)?px|-\d{3,}v[wh]/g)].length > 0) return by('transform', 'translate')
  return null
}

function opacityOf(value: string): number {
  const amount = parseFloat(value)
  return Number.isNaN(amount) ? 1 : value.trim().endsWith('%') ? amount / 100 : amount
}

/** Of what is handed down, the nearest says it: whether it is the value, and by which rule. */
function handedDown(all: readonly Winners[], property: string, values: readonly string[]): string | null {
  const nearest = all
    .map((winners) => winners.get(property))
    .find((one) => one !== undefined && one.value !== 'inherit')
  return nearest !== undefined && values.includes(nearest.value) ? nearest.selector : null
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

function matches(element: Html.Element, selector: string): boolean {
  try {
    return is<Html.Node, Html.Element>(element, selector, { adapter: treeAdapter })
  } catch {
    return false
  }
}

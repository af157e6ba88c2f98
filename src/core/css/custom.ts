import { generate, type Atrule, type CssNode, type Rule } from 'css-tree'
import { type CustomRule, customRuleSchema, readSelector, withinForm } from '#core/look'
import { atTopLevel } from './commas'
import { parseSheet } from './parse'

export interface CustomCssReading {
  rules: CustomRule[]
  /** Declarations and rules that were left out, each with its reason, in the order typed. */
  leftOut: string[]
}

/** Properties that a form's own CSS may set: looks, and nothing that loads, covers the page or runs. */
const ALLOWED = new Set(
  (
    'accent-color align-content align-items align-self aspect-ratio background background-blend-mode background-clip background-color background-origin background-position background-repeat background-size ' +
    'border border-block border-block-end border-block-start border-bottom border-bottom-left-radius border-bottom-right-radius border-color border-end-end-radius border-end-start-radius border-inline border-inline-end border-inline-start border-left border-radius border-right border-spacing border-start-end-radius border-start-start-radius border-style border-top border-top-left-radius border-top-right-radius border-width ' +
    'box-shadow caret-color color column-gap columns display filter flex flex-basis flex-direction flex-flow flex-grow flex-shrink flex-wrap float clear font font-family font-feature-settings font-size font-size-adjust font-stretch font-style font-variant font-variant-caps font-variant-numeric font-weight gap grid grid-area grid-auto-columns grid-auto-flow grid-auto-rows grid-column grid-row grid-template grid-template-areas grid-template-columns grid-template-rows ' +
    'height hyphens inset inset-block inset-inline justify-content justify-items justify-self left letter-spacing line-height list-style list-style-position list-style-type margin margin-block margin-block-end margin-block-start margin-bottom margin-inline margin-inline-end margin-inline-start margin-left margin-right margin-top max-block-size max-height max-inline-size max-width min-block-size min-height min-inline-size min-width mix-blend-mode object-fit object-position opacity order outline outline-color outline-offset outline-style outline-width overflow overflow-wrap ' +
    'padding padding-block padding-block-end padding-block-start padding-bottom padding-inline padding-inline-end padding-inline-start padding-left padding-right padding-top place-content place-items place-self position right rotate row-gap scale text-align text-decoration text-decoration-color text-decoration-style text-decoration-thickness text-indent text-overflow text-shadow text-transform text-underline-offset text-wrap top transform transform-origin transition translate vertical-align visibility white-space width word-break word-spacing writing-mode z-index'
  ).split(' '),
)

/**
 * The owner's own CSS in the one shape that is kept and rendered (see `core/look`): rules whose selectors get
 * the form's scope, of properties from an allow-list, and media rules for widths. Everything else is named
 * and left out. Never throws.
 */
export function readCustomCss(typed: string): CustomCssReading {
  const reading: CustomCssReading = { rules: [], leftOut: [] }
  let sheet: CssNode
  try {
    sheet = parseSheet(typed, {
      parseValue: false,
      parseCustomProperty: false,
      onParseError: (error) => reading.leftOut.push(`Line ${error.line}: ${error.message}`),
    })
  } catch (error) {
    return { rules: [], leftOut: [error instanceof Error ? error.message : 'This could not be read.'] }
  }
  if (sheet.type === 'StyleSheet') for (const node of sheet.children) readNode(node, null, reading)
  return reading
}

function readNode(node: CssNode, media: CustomRule['media'], reading: CustomCssReading): void {
  if (node.type === 'Rule') readRule(node, media, reading)
  else if (node.type === 'Atrule') readAtrule(node, media, reading)
  else if (node.type === 'Raw' && node.value.trim() !== '')
    reading.leftOut.push(`“${shortened(node.value)}” is not a rule.`)
}

function readAtrule(node: Atrule, media: CustomRule['media'], reading: CustomCssReading): void {
  const words = node.prelude === null ? '' : generate(node.prelude)
  const bounds = node.name.toLowerCase() === 'media' && media === null ? boundsOf(words) : null
  if (bounds === null || node.block === null) {
    reading.leftOut.push(
      `“@${node.name} ${shortened(words)}” is left out: only “@media” with a least or greatest width is taken.`,
    )
    return
  }
  for (const inner of node.block.children) readNode(inner, bounds, reading)
}

/** `(min-width:600px)`, `(max-width:480px)`, or both joined by `and`. */
function boundsOf(prelude: string): CustomRule['media'] {
  const parts = prelude
    .trim()
    .toLowerCase()
    .replace(/\s+/g, ' ')
    .split(/ ?\band\b ?/)
  const bounds = { from: null as number | null, upTo: null as number | null }
  for (const part of parts) {
    const match = /^\(\s*(min|max)-width\s*:\s*(\d{1,4})px\s*\)$/.exec(part.trim())
    if (match === null) return null
    if (match[1] === 'min') bounds.from = Number(match[2])
    else bounds.upTo = Number(match[2])
  }
  return bounds
}

function readRule(node: Rule, media: CustomRule['media'], reading: CustomCssReading): void {
  const selectors = atTopLevel(generate(node.prelude)).map((selector) => selector.trim())
  const declarations: CustomRule['declarations'] = []
  for (const inner of node.block.children) {
    if (inner.type !== 'Declaration') {
      reading.leftOut.push(`“${shortened(generate(inner))}” inside “${shortened(selectors.join(', '))}” is left out.`)
      continue
    }
    const property = inner.property.toLowerCase()
    const value = `${generate(inner.value).trim()}${inner.important ? ' !important' : ''}`
    const one = { property, value }
    if (!ALLOWED.has(property) && !property.startsWith('--'))
      reading.leftOut.push(`“${property}” is left out: it is not among the properties that a form’s own CSS may set.`)
    else if (!customRuleSchema.shape.declarations.element.safeParse(one).success)
      reading.leftOut.push(
        `“${property}: ${shortened(value)}” is left out: it would load something, leave its place, or hold a character that values may not have.`,
      )
    else declarations.push(one)
  }
  const rule = { media, selectors, declarations }
  if (declarations.length === 0) return
  const within = customRuleSchema.safeParse(rule).success ? withinForm(rule) : null
  for (const selector of selectors) {
    if (within === null ? readSelector(selector) === null : !within.selectors.includes(selector))
      reading.leftOut.push(
        `“${shortened(selector)}” is left out: a selector may hold names, classes, states and what stands within the form only.`,
      )
  }
  if (within === null) {
    if (selectors.every((selector) => readSelector(selector) !== null))
      reading.leftOut.push(`“${shortened(selectors.join(', '))}” is left out: nothing of it can hold within the form.`)
    return
  }
  for (const { property } of declarations) {
    if (!within.declarations.some((one) => one.property === property))
      reading.leftOut.push(
        `“${property}” of the form itself is left out: it would take the form to another place on the page.`,
      )
  }
  reading.rules.push(within)
}

function shortened(text: string): string {
  return text.length > 60 ? `${text.slice(0, 59)}…` : text
}

import { sameValue } from '#core/json'
import { type FormContent } from '#core/form'
import {
  type CustomRule,
  type Demand,
  LARGE_TEXT_CONTRAST,
  type Look,
  mended,
  PART_CONTRAST,
  TEXT_CONTRAST,
  worstContrast,
} from '#core/look'
import type { Finding, Mend } from './finding'
import type { Drawn, DrawnEdge, DrawnText } from './measures'
import { partName, withoutState } from './parts'

/**
 * What the owner's own CSS does to the form: by its rules, and by what a rendering with them shows. Mends are
 * rules after all others, so that what the owner wrote stays as it was written.
 */
export function ownCssFindings({ look }: FormContent, drawn: Drawn | null): Finding[] {
  const { rules } = look.custom
  if (rules.length === 0) return []
  return [...ruleFindings(rules), ...(drawn !== null && sameValue(drawn.look, look) ? drawnFindings(drawn) : [])]
}

function ruleFindings(rules: readonly CustomRule[]): Finding[] {
  const sets = (test: (property: string, value: string, selector: string) => boolean) =>
    rules.some(({ selectors, declarations }) =>
      declarations.some(({ property, value }) =>
        selectors.some((selector) => test(property, withoutImportance(value), selector)),
      ),
    )
  const findings: (Finding | false)[] = [
    hidesFocus(rules) && {
      ...fault('focus-hidden'),
      message: 'Your own CSS takes away the outline that shows where the keyboard is.',
      source: 'WCAG 2.2, 2.4.7 Focus Visible',
      selector: '.askbox-input',
      mend: withRule('Show the outline again', ':focus-visible', {
        outline: '3px solid var(--askbox-text)',
        'outline-offset': '2px',
      }),
    },
    sets((property, value, selector) => /\.askbox-(result|trouble)\b/.test(selector) && hides(property, value)) && {
      ...fault('message-hidden'),
      message: 'Your own CSS hides what visitors are told after pressing the button.',
      source: 'WCAG 2.2, 4.1.3 Status Messages',
    },
  ]
  return findings.filter((finding) => finding !== false)
}

/**
 * Whether the sign of the focus is taken away: the last rule about the outlines of what can have it decides, as a mend
 * does. One that shows the focus by something else may go without an outline.
 */
function hidesFocus(rules: readonly CustomRule[]): boolean {
  const isOutline = (property: string) => /^outline(-style|-width)?$/.test(property)
  const last = rules.findLast(
    ({ selectors, declarations }) =>
      selectors.some(mayHaveFocus) && declarations.some(({ property }) => isOutline(property)),
  )
  if (last === undefined) return false
  const isGone = last.declarations.some(
    ({ property, value }) => isOutline(property) && /^(none|0|0px|0 .*|.* none)$/.test(withoutImportance(value)),
  )
  const showsElse =
    last.selectors.every((selector) => /:focus/.test(selector)) &&
    last.declarations.some(({ property }) => /^(box-shadow|border|background)/.test(property))
  return isGone && !showsElse
}

/** Whether a selector's subject can be a control or a link, whatever its pseudo-classes. */
function mayHaveFocus(selector: string): boolean {
  const subject =
    selector
      .trim()
      .split(/[\s>+~]/)
      .at(-1) ?? ''
  return /\.askbox-(input|box|button)|\*|^(input|select|textarea|button|a)(?![\w-])|^:/.test(subject)
}

function withoutImportance(value: string): string {
  return value.toLowerCase().replace('!important', '').trim()
}

function hides(property: string, value: string): boolean {
  return (
    (property === 'display' && value === 'none') ||
    (property === 'visibility' && value === 'hidden') ||
    (property === 'opacity' && Number(value) === 0)
  )
}

function drawnFindings({ texts, edges, hidden }: Drawn): Finding[] {
  return [...textFindings(texts), ...edgeFindings(edges), ...hiddenFindings(hidden)]
}

function textFindings(texts: readonly DrawnText[]): Finding[] {
  const demandOf = ({ grounds, opacity, under, isLarge }: DrawnText): Demand => ({
    grounds,
    opacity,
    under,
    wanted: isLarge ? LARGE_TEXT_CONTRAST : TEXT_CONTRAST,
  })
  const ratioOf = ({ colour, grounds, opacity, under }: DrawnText) =>
    worstContrast(colour, grounds, opacity, under).ratio
  const failing = texts
    .filter((text) => ratioOf(text) < demandOf(text).wanted)
    .sort((one, other) => ratioOf(one) - ratioOf(other))
  return onePerSelector(failing).map((text): Finding => {
    const { selector, colour, opacity, width } = text
    const demands = texts.filter((other) => other.selector === selector).map(demandOf)
    const to = mended(colour, demands)
    // Where opacity makes it too faint for any colour, the mend sets `opacity: 1`.
    const inFull =
      to === null && opacity < 1
        ? mended(
            colour,
            demands.map((demand) => ({ ...demand, opacity: 1 })),
          )
        : null
    const declarations: Record<string, string> | null =
      to !== null ? { color: to } : inFull !== null ? { color: inFull, opacity: '1' } : null
    return {
      ...fault('css-contrast', selector, width),
      message: `${partName(selector)}: ${ratioOf(text).toFixed(2)} : 1 as your own CSS draws it, where ${demandOf(text).wanted} : 1 is needed.`,
      reason: 'People with low vision, or a screen in the sun, cannot read it.',
      source: 'WCAG 2.2, 1.4.3 Contrast (Minimum)',
      ...(declarations !== null && {
        mend: withRule(`Give ${lower(partName(selector))} a colour that reads`, selector, declarations),
      }),
    }
  })
}

function edgeFindings(edges: readonly DrawnEdge[]): Finding[] {
  const failing = edges.filter((one) => setOff(one) < PART_CONTRAST).sort((one, other) => setOff(one) - setOff(other))
  return onePerSelector(failing).map((one): Finding => {
    const { selector, edge, fill, width } = one
    const grounds = edges.filter((other) => other.selector === selector).flatMap((other) => other.grounds)
    const to = mended(edge ?? fill ?? '#808080', [{ grounds, wanted: PART_CONTRAST }])
    const what = controlName(selector)
    return {
      ...fault('css-edge', selector, width),
      message: `${what}: ${setOff(one).toFixed(2)} : 1 as your own CSS draws it, where ${PART_CONTRAST} : 1 is needed.`,
      reason: 'People with low vision miss a part that is too like its surroundings.',
      source: 'WCAG 2.2, 1.4.11 Non-text Contrast',
      ...(to !== null && {
        mend: withRule(`Give ${lower(what)} an edge that shows`, selector, { border: `1px solid ${to}` }),
      }),
    }
  })
}

/** Contrast of a control with its surroundings: the better of its border, against either side, and its fill. */
function setOff({ edge, fill, grounds }: DrawnEdge): number {
  const against = (colour: string, others: readonly string[]) => worstContrast(colour, others).ratio
  return Math.max(
    1,
    edge === null ? 1 : against(edge, grounds),
    edge === null || fill === null ? 1 : against(edge, [fill]),
    fill === null ? 1 : against(fill, grounds),
  )
}

function hiddenFindings(hidden: Drawn['hidden']): Finding[] {
  return onePerSelector(hidden).map(({ selector, width, is }): Finding => {
    const widths = widthsOf(hidden, selector)
    const at = fault('css-hidden', selector, width)
    switch (is) {
      case 'label':
        return {
          ...at,
          message: `Your own CSS hides a label at ${widths}: nobody is told what is asked.`,
          source: 'WCAG 2.2, 3.3.2 Labels or Instructions; 4.1.2 Name, Role, Value',
        }
      case 'error':
        return {
          ...at,
          message: `Your own CSS hides what is wrong with an answer at ${widths}.`,
          source: 'WCAG 2.2, 3.3.1 Error Identification; 4.1.3 Status Messages',
        }
      case 'control':
        return {
          ...at,
          weight: 'stops',
          message: `Your own CSS hides a field that has to be answered, at ${widths}: nobody could sign up there.`,
        }
      case 'button':
        return {
          ...at,
          weight: 'stops',
          message: `Your own CSS hides the button at ${widths}: nobody could sign up there.`,
        }
    }
  })
}

function fault(code: string, selector?: string, width?: number) {
  return {
    station: 'form' as const,
    code,
    weight: 'fault' as const,
    ...(selector !== undefined && { selector: withoutState(selector).bare, about: `${selector} ${width}` }),
  }
}

function controlName(selector: string): string {
  const { bare, words } = withoutState(selector)
  return `${{ '.askbox-button': 'The button', '.askbox-box': 'The boxes to tick' }[bare] ?? 'The fields'}${words}`
}

function lower(name: string): string {
  return `${name[0]!.toLowerCase()}${name.slice(1)}`
}

/** "320, 360 and 680 px", narrowest first. */
function widthsOf(all: readonly { selector: string; width: number }[], selector: string): string {
  const widths = [...new Set(all.filter((one) => one.selector === selector).map(({ width }) => width))].sort(
    (one, other) => one - other,
  )
  return `${[widths.slice(0, -1).join(', '), widths.at(-1)].filter(Boolean).join(' and ')} px`
}

/** The first finding of each selector; the list is sorted worst first. */
function onePerSelector<T extends { selector: string }>(all: readonly T[]): T[] {
  return all.filter((one, at) => all.findIndex(({ selector }) => selector === one.selector) === at)
}

/** Appends a rule that overrides all others, to the parsed rules and to the text that the owner edits. */
function withRule(name: string, selector: string, declarations: Record<string, string>): Mend {
  const added = Object.entries(declarations).map(([property, value]) => ({ property, value: `${value} !important` }))
  const typed = `${selector} { ${added.map(({ property, value }) => `${property}: ${value};`).join(' ')} }`
  const withIt = ({ custom, ...look }: Look): Look => ({
    ...look,
    custom: {
      typed: `${custom.typed.trimEnd()}\n${typed}\n`,
      rules: [...custom.rules, { media: null, selectors: [selector], declarations: added }],
    },
  })
  return { name, apply: (content) => ({ ...content, look: withIt(content.look) }) }
}

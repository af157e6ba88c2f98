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

/** WCAG 2.2, success criterion 2.5.8 (AA), in CSS pixels either way. */
export const LEAST_TARGET = 24

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
  const lost = focusLost(rules)
  const findings: (Finding | false)[] = [
    sets((property, value) => property === 'order' || (property.startsWith('flex') && /-reverse/.test(value))) && {
      ...fault('order-changed'),
      message: 'Your own CSS shows things in another order than they are read out and reached by keyboard.',
      source: 'WCAG 2.2, 1.3.2 Meaningful Sequence; 2.4.3 Focus Order',
    },
    lost !== null && {
      ...fault('focus-hidden'),
      message:
        lost === 'gone'
          ? 'Your own CSS takes away the outline that shows where the keyboard is.'
          : 'Your own CSS draws an outline at all times, so that it no longer shows where the keyboard is.',
      source: 'WCAG 2.2, 2.4.7 Focus Visible',
      selector: '.askbox-input',
      mend: withRule('Show the outline again', ':focus-visible', {
        outline: '3px solid var(--askbox-text)',
        'outline-offset': '2px',
      }),
    },
    sets(
      (property, value) =>
        /^(filter|mix-blend-mode|background-blend-mode)$/.test(property) && !/^(none|normal)$/.test(value),
    ) && {
      ...fault('css-filtered'),
      weight: 'hint',
      message:
        'Your own CSS draws through a filter or a blend, which cannot be measured. Look whether all of it still reads.',
      source: 'WCAG 2.2, 1.4.3 Contrast (Minimum)',
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
 * How the sign of the focus is lost: the last rule about the outlines of what can have it decides, as a mend does.
 * One that shows the focus by something else may go without an outline.
 */
function focusLost(rules: readonly CustomRule[]): 'gone' | 'always there' | null {
  const last = rules
    .filter(
      ({ selectors, declarations }) =>
        selectors.some((selector) => mayHaveFocus(selector)) &&
        declarations.some(({ property }) => /^outline(-style|-width)?$/.test(property)),
    )
    .at(-1)
  if (last === undefined) return null
  const showsElse =
    last.selectors.every((selector) => /:focus/.test(selector)) &&
    last.declarations.some(({ property }) => /^(box-shadow|border|background)/.test(property))
  if (
    last.declarations.some(
      ({ property, value }) =>
        /^outline(-style|-width)?$/.test(property) && /^(none|0|0px|0 .*|.* none)$/.test(withoutImportance(value)),
    )
  )
    return showsElse ? null : 'gone'
  return last.selectors.some((selector) => mayHaveFocus(selector) && !/:(focus|hover|active)/.test(selector))
    ? 'always there'
    : null
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

function drawnFindings({ texts, edges, outlines, small, hidden, covered }: Drawn): Finding[] {
  return [
    ...textFindings(texts),
    ...edgeFindings(edges),
    ...outlineFindings(outlines),
    ...smallFindings(small),
    ...hiddenFindings(hidden),
    ...coveredFindings(covered),
  ]
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

function outlineFindings(outlines: Drawn['outlines']): Finding[] {
  const ratioOf = ({ colour, grounds }: Drawn['outlines'][number]) => worstContrast(colour, grounds).ratio
  const failing = outlines
    .filter((one) => ratioOf(one) < PART_CONTRAST)
    .sort((one, other) => ratioOf(one) - ratioOf(other))
  return onePerSelector(failing).map((one): Finding => {
    const { selector, colour, width } = one
    const to = mended(colour, [
      {
        grounds: outlines.filter((other) => other.selector === selector).flatMap(({ grounds }) => grounds),
        wanted: PART_CONTRAST,
      },
    ])
    return {
      ...fault('css-outline', selector, width),
      message: `${controlName(selector)}: ${ratioOf(one).toFixed(2)} : 1 for the outline that your own CSS draws, where ${PART_CONTRAST} : 1 is needed.`,
      reason: 'Who goes by keyboard has to see where they are.',
      source: 'WCAG 2.2, 1.4.11 Non-text Contrast; 2.4.7 Focus Visible',
      ...(to !== null && { mend: withRule('Give the outline a colour that shows', selector, { 'outline-color': to }) }),
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

function smallFindings(small: Drawn['small']): Finding[] {
  return onePerSelector(small).map(({ selector, width, across, down }) => ({
    ...fault('css-target', selector, width),
    message: `${controlName(selector)}: ${across} × ${down} px as your own CSS draws it, where ${LEAST_TARGET} × ${LEAST_TARGET} are needed.`,
    reason: 'Small targets are missed by unsteady hands and thumbs.',
    source: 'WCAG 2.2, 2.5.8 Target Size (Minimum)',
    mend: withRule(`Make ${lower(controlName(selector))} large enough to hit`, selector, {
      'min-width': `${LEAST_TARGET}px`,
      'min-height': `${LEAST_TARGET}px`,
    }),
  }))
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

function coveredFindings(covered: Drawn['covered']): Finding[] {
  return onePerSelector(covered).map(({ selector, width }) => ({
    ...fault('css-covered', selector, width),
    message: `Something lies over ${lower(controlName(selector))} at ${widthsOf(covered, selector)}, as your own CSS draws it.`,
    reason: 'What is covered can be reached by keyboard, and not be seen.',
    source: 'WCAG 2.2, 2.4.11 Focus Not Obscured (Minimum)',
  }))
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

import { type Drawn, type DrawnEdge, type DrawnText, selectorInState } from '#core/checkup'
import type { State } from '#core/css'
import { contrast, mix } from '#core/look'
import { standsOver } from './behind'
import { groundsUnder, laidOn, type SeenColour, seenColour, styleOf } from './colours'
import { isSeen, textsIn } from './texts'

type Facts = Omit<Drawn, 'look'>
type Hidden = Drawn['hidden'][number]

/** Everything about one rendering that an owner's own CSS could spoil. */
export interface Rendered {
  texts: DrawnText[]
  edges: DrawnEdge[]
  /** In document order, so that two renderings of one form can be held against each other. */
  sights: { is: Hidden['is']; selector: string; isSeen: boolean; matters: boolean }[]
}

/** @param base what is behind the page, `#rrggbb` */
export function readRendering(page: Document, width: number, base: string): Rendered {
  const layer = page.querySelector('.askbox-behind')
  const controls = [...page.querySelectorAll<HTMLElement>('.askbox-input, .askbox-box, .askbox-button')]
  const seen = controls.filter(isSeen)
  return {
    texts: textsIn(page).flatMap(({ selector, element, colour, isLarge }) =>
      layer !== null && standsOver(element, layer)
        ? []
        : [{ selector, width, ...laidOn(element, colour, base), isLarge }],
    ),
    edges: seen.flatMap((control) => edgeOf(control, width, base, layer)),
    sights: sightsIn(page, controls),
  }
}

/** What is otherwise in `now`, with the owner's own CSS, than in `before`, without it. */
export function changesOf(now: Rendered, before: Rendered, width: number): Facts {
  const isNew = <T>(all: readonly T[]) => {
    const before = new Set(all.map((one) => JSON.stringify(one)))
    return (one: T) => !before.has(JSON.stringify(one))
  }
  return {
    texts: now.texts.filter(isNew(before.texts)),
    edges: now.edges.filter(isNew(before.edges)),
    hidden: now.sights.flatMap(({ is, selector, isSeen, matters }, at): Hidden[] =>
      matters && !isSeen && before.sights[at]?.isSeen ? [{ is, selector, width }] : [],
    ),
  }
}

/**
 * What a state (hover, focus) changes: colours of texts, and borders. Elements that a state shows or hides are left out:
 * whoever causes the state expects them.
 */
export function changesIn(state: State, now: Rendered, before: Rendered, width: number): Facts {
  const { texts, edges } = changesOf(now, before, width)
  const inState = <T extends { selector: string }>(all: readonly T[]) =>
    all.map((one) => ({ ...one, selector: selectorInState(one.selector, state) }))
  return { texts: inState(texts), edges: inState(edges), hidden: [] }
}

function selectorOf(control: Element): string {
  return control.matches('.askbox-button')
    ? '.askbox-button'
    : control.matches('.askbox-box')
      ? '.askbox-box'
      : '.askbox-input'
}

/** A control's border and fill against its surroundings; none where computed styles do not tell: native checkboxes, shadows. */
function edgeOf(control: Element, width: number, base: string, layer: Element | null): DrawnEdge[] {
  const style = styleOf(control)
  const around = control.parentElement
  if (
    around === null ||
    control.matches('.askbox-box') ||
    style.boxShadow !== 'none' ||
    (layer !== null && standsOver(around, layer))
  )
    return []
  const grounds = groundsUnder(around, base)
  const edges = (['Bottom', 'Top', 'Left', 'Right'] as const)
    .filter((side) => Number.parseFloat(style[`border${side}Width`]) > 0)
    .map((side) => seenColour(style[`border${side}Color`]))
  const edge = edges.find(({ opacity }) => opacity > 0)
  // Of a fill in several colours, the one that is most like its surroundings.
  const [fill] = groundsUnder(control, base).sort(
    (one, other) => contrast(one, grounds[0]!) - contrast(other, grounds[0]!),
  )
  return [
    {
      selector: selectorOf(control),
      width,
      edge: edge === undefined ? null : seenAt(control, edge, base),
      fill: fill ?? null,
      grounds,
    },
  ]
}

/** A control's colour after compositing with the opacity of its ancestors. */
function seenAt(control: Element, colour: SeenColour, base: string): string {
  const { colour: hex, under, opacity } = laidOn(control, colour, base)
  return mix(hex, under[0]!, opacity)
}

function sightsIn(page: Document, controls: readonly HTMLElement[]): Rendered['sights'] {
  const withControl = (is: 'label' | 'error', selector: string) =>
    [...page.querySelectorAll(selector)].map((node) => ({
      is,
      selector,
      isSeen: isSeen(node),
      matters: controls.some((control) => node.closest('.askbox-field')?.contains(control) && isSeen(control)),
    }))
  return [
    ...withControl('label', '.askbox-label'),
    ...withControl('error', '.askbox-error'),
    ...controls.map((control) => {
      const isButton = control.matches('.askbox-button')
      const mustBeAnswered = (control as HTMLInputElement).required || control.getAttribute('aria-required') === 'true'
      return {
        is: isButton ? ('button' as const) : ('control' as const),
        selector: selectorOf(control),
        isSeen: isSeen(control),
        matters: isButton || mustBeAnswered,
      }
    }),
  ]
}

import type { FormContent } from '#core/form'
import {
  contrast,
  type Demand,
  fieldColours,
  followsPage,
  hexOf,
  LARGE_TEXT_CONTRAST,
  type Look,
  mended,
  mix,
  oklchOf,
  PART_CONTRAST,
  TEXT_CONTRAST,
  type LookTextKey,
  lookTextKeys,
  worstContrast,
} from '#core/look'
import type { Finding } from './finding'
import type { Measures } from './measures'
import { textParts } from './parts'

type ColourKey = keyof Look['colours']

interface Pair {
  code: string
  what: string
  selector: string
  /** The colour that would be mended, and how it looks where it stands. */
  key: ColourKey
  colour: string
  grounds: string[]
  wanted: number
  /** Where the grounds come from, for the message. */
  at?: string
  isPart?: boolean
  /** Inside of fields, whose colour could give way instead. */
  isInField?: boolean
  /** Opacity of a see-through text. */
  opacity?: number
}

/** As the renderer writes it for placeholders. */
const PLACEHOLDER_OPACITY = 0.72

const TEXT_SOURCE = 'WCAG 2.2, 1.4.3 Contrast (Minimum)'
const PART_SOURCE = 'WCAG 2.2, 1.4.11 Non-text Contrast'

/**
 * Contrast of every text, of field borders and of the button, against what is really behind them.
 *
 * @param standsOn what can be behind a form without a ground of its own, `#rrggbb`
 */
export function contrastFindings(content: FormContent, standsOn: readonly string[], measures: Measures): Finding[] {
  const { look } = content
  // In the site's own dress colours are unknown here.
  if (look.dress === 'site') return []
  const grounds = groundsOf(look, standsOn)
  const pairs = [
    ...textPairs(content, grounds, measures),
    ...buttonPairs(look, grounds, measures),
    ...fieldPairs(content, grounds, measures),
  ]
  const seen = new Set<string>()
  return pairs
    .filter(({ key }) => isJudged(look, key))
    .flatMap((pair) => {
      const { ratio, ground } = worstContrast(pair.colour, pair.grounds, pair.opacity)
      // The same colour on the same ground is one fault, however many texts it meets.
      const same = `${pair.key} ${ground} ${pair.isPart ?? false}`
      if (ratio >= pair.wanted || seen.has(same)) return []
      seen.add(same)
      const isOfButton = isFilled(look) && pair.selector === '.askbox-button' && pair.key !== 'buttonHover'
      const mend = isOfButton ? buttonMend(look, pairs) : singleMend(mendOf(pair, pairs, fieldColours(look).field))
      return [findingOf(pair, ratio, mend)]
    })
}

const isFilled = ({ button }: Look) => button.fill === 'full'

/** A text that inherits the site's colour is as readable as the site; only colours of the form are judged. */
function isJudged(look: Look, key: ColourKey): boolean {
  if (!followsPage(look)) return true
  if (key === 'button' || key === 'buttonText') return isFilled(look)
  return key !== 'text' && (look.colours[key] ?? null) !== null
}

function buttonPairs(look: Look, grounds: string[], { behind }: Measures): Pair[] {
  const { colours } = look
  const button: Pair = {
    ...{ code: 'contrast-button', what: 'The button', selector: '.askbox-button' },
    ...{ key: 'button', colour: colours.button, grounds, wanted: PART_CONTRAST, isPart: true },
  }
  const words: Pair = {
    ...{ ...button, code: 'contrast-button-text', what: 'The button’s words', wanted: TEXT_CONTRAST, isPart: false },
    ...(isFilled(look) && { key: 'buttonText', colour: colours.buttonText, grounds: [colours.button] }),
  }
  const hover: Pair[] =
    colours.buttonHover === undefined
      ? []
      : [
          {
            ...{ ...words, code: 'contrast-button-hover', what: 'The button’s words under the pointer' },
            ...{ key: 'buttonHover', colour: colours.buttonHover },
            grounds: isFilled(look) ? [colours.buttonText] : grounds,
          },
        ]
  return isFilled(look) ? [words, overPicture(button, behind), ...hover] : [overPicture(words, behind), ...hover]
}

function fieldPairs({ look, fields }: FormContent, grounds: string[], { behind }: Measures): Pair[] {
  const { field, edge } = fieldColours(look)
  const isBox = look.field.shape === 'box'
  // A field drawn as a line lets through what is behind it.
  const inField = (pair: Pair): Pair =>
    isBox ? { ...pair, grounds: [field], isInField: true } : overPicture(pair, behind)
  const part = { selector: '.askbox-input', grounds }
  const typed: Pair = {
    ...{ ...part, code: 'contrast-field-text', what: 'What visitors type', wanted: TEXT_CONTRAST },
    ...ownColour(look, 'fieldText'),
  }
  const example: Pair = {
    ...typed,
    ...{ code: 'contrast-placeholder', what: 'The example in a field', opacity: PLACEHOLDER_OPACITY },
  }
  const edges = overPicture(
    {
      ...{ ...part, code: 'contrast-field-edge', what: 'The edge of the fields' },
      ...{ key: 'edge', colour: edge, wanted: PART_CONTRAST, isPart: true },
    },
    behind,
  )
  // A border is enough on either of its sides; fields that differ from their ground need none.
  const needsNoEdge = isBox && worstContrast(field, edges.grounds).ratio >= PART_CONTRAST
  return [
    inField(typed),
    ...(fields.some(({ placeholder }) => placeholder !== '') ? [inField(example)] : []),
    ...(needsNoEdge ? [] : [isBox ? { ...edges, grounds: [...edges.grounds, field] } : edges]),
  ]
}

const STEPS = 48

/**
 * A filled button has to contrast with its surroundings and with its own words. Both colours are changed together, by the
 * smallest difference that satisfies both, so that mending one never breaks the other.
 */
function buttonMend({ colours }: Look, pairs: readonly Pair[]): Finding['mend'] {
  const around = pairs.filter(({ key }) => key === 'button')
  const words = pairs.find(({ key }) => key === 'buttonText')
  if (words === undefined) return undefined
  const start = oklchOf(colours.button)
  const far = (one: string, other: string) => Math.abs(oklchOf(one).lightness - oklchOf(other).lightness)
  let best: { button: string; buttonText: string; way: number } | null = null
  for (let step = -1; step <= STEPS; step++) {
    // First the button as it is, then every lightness of its hue.
    const button = step < 0 ? colours.button : hexOf({ ...start, lightness: step / STEPS })
    if (around.some(({ grounds, wanted }) => worstContrast(button, grounds).ratio < wanted)) continue
    const buttonText = mended(colours.buttonText, [{ grounds: [button], wanted: words.wanted }])
    if (buttonText === null) continue
    const way = far(button, colours.button) + far(buttonText, colours.buttonText)
    if (best === null || way < best.way) best = { button, buttonText, way }
  }
  if (best === null) return undefined
  const { button, buttonText } = best
  const apply = (content: FormContent): FormContent => ({
    ...content,
    look: { ...content.look, colours: { ...content.look.colours, button, buttonText } },
  })
  if (button === colours.button) return { name: nameOf('buttonText', colours.buttonText, buttonText), apply }
  if (buttonText === colours.buttonText) return { name: nameOf('button', colours.button, button), apply }
  return { name: 'Recolour the button and its words', apply }
}

/**
 * The colour to change, and to what. One colour stands in several places: what is enough for all of them comes
 * first. Where nothing is, fields take a colour that suits what is typed in them, and no mend spoils what is
 * well: each leaves less to mend.
 */
function mendOf(
  pair: Pair,
  pairs: readonly Pair[],
  field: string,
): { key: ColourKey; from: string; to: string } | null {
  const together = pairs.filter(({ key, colour }) => key === pair.key && colour === pair.colour)
  const demands = (all: readonly Pair[]): Demand[] => [
    ...all,
    // A colour that is readable on no field would only cause the next finding.
    ...together
      .filter(({ isInField }) => isInField)
      .map(({ wanted, opacity }): Demand => ({ grounds: ['#ffffff', '#000000'], wanted, opacity, on: 'one' })),
  ]
  const all = mended(pair.colour, together)
  if (all !== null) return { key: pair.key, from: pair.colour, to: all }
  if (pair.isInField) {
    const inField = together
      .filter(({ isInField }) => isInField)
      .map(({ colour, wanted, opacity }): Demand => ({ grounds: [colour], wanted, opacity, on: 'under' }))
    const to = mended(field, inField)
    return to === null ? null : { key: 'field', from: field, to }
  }
  const outside = together.filter(({ isInField }) => !isInField)
  const isWell = ({ colour, grounds, opacity, wanted }: Pair) => worstContrast(colour, grounds, opacity).ratio >= wanted
  const to = mended(pair.colour, demands(outside)) ?? mended(pair.colour, demands([pair, ...outside.filter(isWell)]))
  return to === null ? null : { key: pair.key, from: pair.colour, to }
}

/** The token that colours a text, and its colour: its own, or that of all texts. */
function ownColour({ colours }: Look, key: ColourKey): Pick<Pair, 'key' | 'colour'> {
  const own = colours[key]
  return typeof own === 'string' ? { key, colour: own } : { key: 'text', colour: colours.text }
}

/**
 * Texts without a colour of their own have one together, so on the form's own ground one pair stands for all of them; a
 * picture is another ground for each.
 */
function textPairs({ words, look, fields }: FormContent, grounds: string[], { behind, isOnGround }: Measures): Pair[] {
  const headingPx = 16 * (look.type.size / 100) * (look.type.headingSize / 100)
  const isLarge = headingPx >= 24 || (headingPx >= 18.66 && Number(look.type.headingWeight) >= 700)
  const text: Pair = {
    code: 'contrast-text',
    what: 'The text',
    selector: '.askbox-introduction',
    key: 'text',
    colour: look.colours.text,
    grounds,
    wanted: TEXT_CONTRAST,
  }
  const heading: Pair = {
    ...text,
    code: 'contrast-heading',
    what: 'The heading',
    selector: '.askbox-heading',
    ...ownColour(look, 'heading'),
    wanted: isLarge ? LARGE_TEXT_CONTRAST : TEXT_CONTRAST,
  }
  const isThere = (key: LookTextKey) => (key === 'label' ? fields.length > 0 : words[key].length > 0)
  const hasOwn = (selector: string) =>
    lookTextKeys.some((key) => `.askbox-${key}` === selector && look.colours[key] !== undefined && isThere(key))
  const isOver = (selector: string) => behind.some((one) => one.selector === selector && one.is === 'text')
  const apart = textParts.filter(
    ({ selector }) =>
      ![heading.selector, '.askbox-button', '.askbox-input'].includes(selector) &&
      (isOver(selector) || hasOwn(selector)),
  )
  const overIt = apart.filter(({ selector }) => isOver(selector))
  return [
    ...apart.map(({ selector, what }) => {
      const name = selector.slice('.askbox-'.length)
      const colour = lookTextKeys.some((key) => key === name) ? ownColour(look, name as LookTextKey) : {}
      return overPicture({ ...text, code: `contrast-${name}`, what, selector, ...colour }, behind)
    }),
    ...(overIt.length === 0 || isOnGround ? [text] : []),
    ...(words.heading === '' ? [] : [overPicture(heading, behind)]),
  ]
}

/** The same, where it stands over a picture: against what is behind it at every width, so that a mend holds at all of them. */
function overPicture(pair: Pair, behind: Measures['behind']): Pair {
  const over = behind.filter(
    ({ selector, is }) => selector === pair.selector && (is === 'part') === (pair.isPart ?? false),
  )
  if (over.length === 0) return pair
  const grounds = [...new Set(over.flatMap(({ colours }) => colours))]
  const { ground } = worstContrast(pair.colour, grounds, pair.opacity)
  const width = over.find(({ colours }) => colours.includes(ground))?.width
  return { ...pair, code: `${pair.code}-over-picture`, grounds, at: `over the picture at ${width} px` }
}

/** Every colour that can be behind the form's parts: its own, those along a gradient, or the site's. */
export function groundsOf({ ground, colours }: Look, standsOn: readonly string[]): string[] {
  if (ground.kind === 'none') return [...standsOn]
  if (ground.kind === 'colour') return [colours.background]
  return [0, 0.25, 0.5, 0.75, 1].map((share) => mix(ground.to, colours.background, share))
}

function findingOf({ code, what, selector, wanted, at, isPart }: Pair, ratio: number, mend: Finding['mend']): Finding {
  return {
    station: 'form',
    code,
    weight: 'fault',
    message: `${what}: too like what is behind${at === undefined ? '' : `, ${at}`}.`,
    reason: isPart
      ? 'People with low vision miss a part that is too like its surroundings.'
      : 'People with low vision, or a screen in the sun, cannot read it.',
    source: `${isPart ? PART_SOURCE : TEXT_SOURCE}: ${ratio.toFixed(2)} : 1, where ${wanted} : 1 is needed`,
    selector,
    ...(mend !== undefined && { mend }),
  }
}

function singleMend(mend: ReturnType<typeof mendOf>): Finding['mend'] {
  if (mend === null) return undefined
  const { key, from, to } = mend
  return {
    name: nameOf(key, from, to),
    apply: (content) => ({ ...content, look: { ...content.look, colours: { ...content.look.colours, [key]: to } } }),
  }
}

function nameOf(key: ColourKey, from: string, to: string): string {
  return `${contrast(to, '#000000') > contrast(from, '#000000') ? 'Lighten' : 'Darken'} ${colourNames[key]}`
}

const colourNames: Record<ColourKey, string> = {
  background: 'the background',
  text: 'the text',
  button: 'the button',
  buttonText: 'the button’s words',
  field: 'the fields',
  edge: 'the edge of the fields',
  heading: 'the heading',
  introduction: 'the introduction',
  points: 'the points',
  note: 'the note',
  label: 'the labels',
  small: 'the small line',
  quote: 'the quote',
  after: 'the text after',
  fieldText: 'what visitors type',
  buttonHover: 'the button under the pointer',
}

import type { FormContent } from '#core/form'
import { contrast, type Demand, fieldColours, LARGE_TEXT_CONTRAST, type Look, mended, mix, PART_CONTRAST, TEXT_CONTRAST, worstContrast } from '#core/look'
import type { Finding } from './finding'
import type { Measures } from './measures'

type ColourKey = keyof Look['colours']

interface Pair {
  code: string
  what: string
  place: string
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
 * @param siteBackground what stands behind a form without a ground of its own, `#rrggbb`
 */
export function contrastFindings(content: FormContent, siteBackground: string, { behind }: Measures): Finding[] {
  const { look } = content
  const { colours } = look
  const grounds = groundsOf(look, siteBackground)
  const { field, edge } = fieldColours(look)
  // A field drawn as a line lets the ground through.
  const inField = look.field.shape === 'line' ? grounds : [field]
  const filled = look.button.fill === 'full'
  const pairs: Pair[] = [
    ...textPairs(content, grounds, behind),
    filled
      ? { code: 'contrast-button-text', what: 'The button’s words', place: '.askbox-button', key: 'buttonText', colour: colours.buttonText, grounds: [colours.button], wanted: TEXT_CONTRAST }
      : { code: 'contrast-button-text', what: 'The button’s words', place: '.askbox-button', key: 'button', colour: colours.button, grounds, wanted: TEXT_CONTRAST },
    ...(filled ? [{ code: 'contrast-button', what: 'The button', place: '.askbox-button', key: 'button' as const, colour: colours.button, grounds, wanted: PART_CONTRAST, isPart: true }] : []),
    { code: 'contrast-field-text', what: 'What visitors type', place: '.askbox-input', key: 'text', colour: colours.text, grounds: inField, wanted: TEXT_CONTRAST, isInField: look.field.shape === 'box' },
    ...(content.fields.some(({ placeholder }) => placeholder !== '')
      ? [{ code: 'contrast-placeholder', what: 'The example in a field', place: '.askbox-input', key: 'text' as const, colour: colours.text, opacity: PLACEHOLDER_OPACITY, grounds: inField, wanted: TEXT_CONTRAST, isInField: look.field.shape === 'box' }]
      : []),
    // A border is enough on either of its sides; fields that differ from their ground need none.
    ...(worstContrast(field, grounds).ratio >= PART_CONTRAST && look.field.shape === 'box'
      ? []
      : [{ code: 'contrast-field-edge', what: 'The edge of the fields', place: '.askbox-input', key: 'edge' as const, colour: edge, grounds: look.field.shape === 'box' ? [...grounds, field] : grounds, wanted: PART_CONTRAST, isPart: true }]),
  ]
  const seen = new Set<string>()
  return pairs.flatMap((pair) => {
    const { ratio, ground } = worstContrast(pair.colour, pair.grounds, pair.opacity)
    // The same colour on the same ground is one fault, however many texts it meets.
    const same = `${pair.key} ${ground} ${pair.isPart ?? false}`
    if (ratio >= pair.wanted || seen.has(same)) return []
    seen.add(same)
    return [findingOf(pair, ratio, mendOf(pair, pairs, field))]
  })
}

/**
 * The colour to change, and to what. One colour stands in several places: what is enough for all of them comes
 * first. Where nothing is, fields take a colour that suits what is typed in them, and no mend spoils what is
 * well: each leaves less to mend.
 */
function mendOf(pair: Pair, pairs: readonly Pair[], field: string): { key: ColourKey; from: string; to: string } | null {
  const together = pairs.filter(({ key, colour }) => key === pair.key && colour === pair.colour)
  const demands = (all: readonly Pair[]): Demand[] => [
    ...all,
    // A text that no field could hold would have to be changed again.
    ...together.filter(({ isInField }) => isInField).map(({ wanted, opacity }): Demand => ({ grounds: ['#ffffff', '#000000'], wanted, opacity, on: 'one' })),
  ]
  const all = mended(pair.colour, together)
  if (all !== null) return { key: pair.key, from: pair.colour, to: all }
  if (pair.isInField) {
    const inField = together.filter(({ isInField }) => isInField).map(({ colour, wanted, opacity }): Demand => ({ grounds: [colour], wanted, opacity, on: 'under' }))
    const to = mended(field, inField)
    return to === null ? null : { key: 'field', from: field, to }
  }
  const outside = together.filter(({ isInField }) => !isInField)
  const isWell = ({ colour, grounds, opacity, wanted }: Pair) => worstContrast(colour, grounds, opacity).ratio >= wanted
  const to = mended(pair.colour, demands(outside)) ?? mended(pair.colour, demands([pair, ...outside.filter(isWell)]))
  return to === null ? null : { key: pair.key, from: pair.colour, to }
}

function textPairs({ words, look }: FormContent, grounds: string[], behind: Measures['behind']): Pair[] {
  const { text } = look.colours
  const headingPx = 16 * (look.type.size / 100) * (look.type.headingSize / 100)
  const isLarge = headingPx >= 24 || (headingPx >= 18.66 && Number(look.type.headingWeight) >= 700)
  const measured = (place: string) => behind.filter((one) => one.place === place)
  const pair = (code: string, what: string, place: string, wanted: number): Pair[] => {
    const over = measured(place)
    if (over.length === 0) return [{ code, what, place, key: 'text', colour: text, grounds, wanted }]
    const worst = over.reduce((one, other) => (worstContrast(text, other.colours).ratio < worstContrast(text, one.colours).ratio ? other : one))
    return [{ code: `${code}-over-picture`, what, place, key: 'text', colour: text, grounds: [...worst.colours], wanted, at: `over the picture at ${worst.width} px` }]
  }
  return [
    ...pair('contrast-text', 'The text', '.askbox-introduction', TEXT_CONTRAST),
    ...(words.heading === '' ? [] : pair('contrast-heading', 'The heading', '.askbox-heading', isLarge ? LARGE_TEXT_CONTRAST : TEXT_CONTRAST)),
    ...(behind.length === 0 ? [] : [...pair('contrast-label', 'A label', '.askbox-label', TEXT_CONTRAST), ...pair('contrast-small', 'The small line', '.askbox-small', TEXT_CONTRAST)]),
  ]
}

/** Every colour that can be behind the form's parts: its own, those along a gradient, or the site's. */
export function groundsOf({ ground, colours }: Look, siteBackground: string): string[] {
  if (ground.kind === 'none') return [siteBackground]
  if (ground.kind === 'colour') return [colours.background]
  return [0, 0.25, 0.5, 0.75, 1].map((share) => mix(ground.to, colours.background, share))
}

function findingOf({ code, what, place, wanted, at, isPart }: Pair, ratio: number, mend: ReturnType<typeof mendOf>): Finding {
  return {
    station: 'form',
    code,
    weight: 'fault',
    message: `${what}: ${ratio.toFixed(2)} : 1 ${at ?? 'against what is behind'}, where ${wanted} : 1 is needed.`,
    reason: isPart ? 'People with low vision miss a part that is too like its surroundings.' : 'People with low vision, or a screen in the sun, cannot read it.',
    source: isPart ? PART_SOURCE : TEXT_SOURCE,
    place,
    ...(mend !== null && {
      mend: {
        name: `${contrast(mend.to, '#000000') > contrast(mend.from, '#000000') ? 'Lighten' : 'Darken'} ${colourNames[mend.key]}`,
        apply: (content) => ({ ...content, look: { ...content.look, colours: { ...content.look.colours, [mend.key]: mend.to } } }),
      },
    }),
  }
}

const colourNames: Record<ColourKey, string> = {
  background: 'the background',
  text: 'the text',
  button: 'the button',
  buttonText: 'the button’s words',
  field: 'the fields',
  edge: 'the edge of the fields',
}

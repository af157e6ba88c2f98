import { luminance, mix } from './colour'
import { hexOf, oklchOf } from './oklch'

/** WCAG 2.2, success criterion 1.4.3 (AA): text, and text of at least 24 px or bold 18.66 px. */
export const TEXT_CONTRAST = 4.5
export const LARGE_TEXT_CONTRAST = 3
/** WCAG 2.2, success criterion 1.4.11 (AA): edges of controls and their states. */
export const PART_CONTRAST = 3

/** WCAG 2.2, "contrast ratio": 1 to 21, in whichever order. */
export function contrast(one: string, other: string): number {
  const [lighter, darker] = [luminance(one), luminance(other)].sort((first, second) => second - first) as [
    number,
    number,
  ]
  return (lighter + 0.05) / (darker + 0.05)
}

/**
 * Of several grounds the one on which a colour reads worst, and the contrast there. A colour with an opacity
 * (0 to 1) is laid over `under`: the grounds themselves, but for something that fades together with its ground.
 */
export function worstContrast(
  colour: string,
  grounds: readonly string[],
  opacity = 1,
  under = grounds,
): { ground: string; ratio: number } {
  let worst = { ground: grounds[0] ?? '#ffffff', ratio: Number.POSITIVE_INFINITY }
  for (const [at, ground] of grounds.entries()) {
    const ratio = contrast(opacity === 1 ? colour : mix(colour, under[at] ?? ground, opacity), ground)
    if (ratio < worst.ratio) worst = { ground, ratio }
  }
  return worst
}

/** What a colour has to reach: a contrast against each of some grounds, seen through its opacity (see `worstContrast`). */
export interface Demand {
  grounds: readonly string[]
  wanted: number
  opacity?: number | undefined
  under?: readonly string[]
  /** `one`: it is enough on one of the grounds. `under`: the colour is the ground, and these are what is read on it. */
  on?: 'each' | 'one' | 'under'
}

function isMet(colour: string, { grounds, wanted, opacity, under, on = 'each' }: Demand): boolean {
  if (on === 'under') return grounds.every((text) => worstContrast(text, [colour], opacity).ratio >= wanted)
  return on === 'one'
    ? grounds.some((ground) => worstContrast(colour, [ground], opacity).ratio >= wanted)
    : worstContrast(colour, grounds, opacity, under).ratio >= wanted
}

/**
 * The colour nearest to `colour` in OKLCH lightness, of the same hue, that meets every demand; null where none
 * does (a ground that is as light as dark allows neither). Chroma is kept as far as screens can show it.
 */
export function mended(colour: string, demands: readonly Demand[]): string | null {
  const meets = (one: string) => demands.every((demand) => isMet(one, demand))
  if (meets(colour)) return colour
  const start = oklchOf(colour)
  const reaches = (lightness: number) => meets(hexOf({ ...start, lightness }))
  const reached = [nearest(start.lightness, 0, reaches), nearest(start.lightness, 1, reaches)].filter(
    (lightness) => lightness !== null,
  )
  if (reached.length === 0) return null
  const best = reached.reduce((one, other) =>
    Math.abs(other - start.lightness) < Math.abs(one - start.lightness) ? other : one,
  )
  return hexOf({ ...start, lightness: best })
}

const STEPS = 64

/** First lightness on the way from `from` to `to` that fits: stepwise, because contrast is not monotonic over several grounds, then halved. */
function nearest(from: number, to: number, fits: (lightness: number) => boolean): number | null {
  const at = (step: number) => from + ((to - from) * step) / STEPS
  for (let step = 1; step <= STEPS; step++) {
    if (!fits(at(step))) continue
    let [misses, hits] = [at(step - 1), at(step)]
    for (let round = 0; round < 10; round++) {
      const middle = (misses + hits) / 2
      if (fits(middle)) hits = middle
      else misses = middle
    }
    return hits
  }
  return null
}

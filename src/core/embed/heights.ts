/** How high a form is at some widths of its place, narrowest first, in CSS pixels where text is 16 px. */
export type PlaceHeights = readonly PlaceHeight[]
export interface PlaceHeight {
  width: number
  height: number
}

/** Where a form is lower by more than this from one width to the next, it is measured where that happens. */
const STEEP_PX = 10
const NEAR_PX = 2

/**
 * Measures a form at some widths, narrowest first, and closer where it suddenly becomes lower: where fields go beside each
 * other, say. Null as soon as a measurement is.
 */
export async function heightsAt(
  widths: readonly number[],
  measure: (width: number) => Promise<PlaceHeight | null>,
): Promise<PlaceHeights | null> {
  const heights: PlaceHeight[] = []
  for (const width of widths) {
    const next = await measure(width)
    if (next === null) return null
    let last = heights.at(-1)
    // Between two widths it may be as high as at the narrower one until just before the wider one.
    let end = next
    const between: PlaceHeight[] = []
    while (last !== undefined && last.height - end.height > STEEP_PX && end.width - last.width > NEAR_PX) {
      const middle = await measure(Math.round((last.width + end.width) / 2))
      if (middle === null) return null
      if (last.height - middle.height > STEEP_PX) {
        between.push(middle)
        end = middle
      } else {
        heights.push(middle)
        last = middle
      }
    }
    heights.push(...between.toReversed(), next)
  }
  return heights
}

/** What may be too much, in CSS pixels. */
const SPARE_PX = 18
/** How wide a step of the height is, in CSS pixels. */
const STEP_PX = 1

/**
 * The height as a sum of CSS lengths that depends on the width of the place, for `calc()`: linear between some of the
 * widths, nowhere less than was measured, and hardly anywhere more.
 *
 * @param length writes a number of CSS pixels
 * @param place the width of the place as a CSS length
 */
export function heightByWidth(heights: PlaceHeights, length: (px: number) => string, place: string): string {
  const [first, ...knots] = knotsOf(heights)
  let [{ width, height }, sum] = [first!, length(first!.height)]
  for (const knot of knots) {
    const rise = knot.height - height
    if (rise !== 0) {
      const slope = Number(Math.abs(rise / (knot.width - width)).toFixed(3))
      const step = `clamp(${length(0)},(${place} - ${length(width)})*${slope},${length(Math.abs(rise))})`
      sum += ` ${rise > 0 ? '+' : '-'} ${step}`
    }
    ;({ width, height } = knot)
  }
  return sum
}

/** As few points as a line through them needs, to be below no height and within `SPARE_PX` above each. */
function knotsOf(heights: PlaceHeights): { width: number; height: number }[] {
  const knots = [{ ...heights[0]! }]
  for (let from = 0; from < heights.length - 1;) {
    const start = knots.at(-1)!
    const ends = heights.flatMap((_, to) => (to > from ? (endAbove(start, heights.slice(from + 1, to + 1)) ?? []) : []))
    const end = ends.at(-1)
    if (end === undefined) {
      // Lower from here on; between two widths that were measured, it may still be as high as at the narrower one.
      const next = heights[++from]!
      knots.push({ width: next.width - STEP_PX, height: start.height }, { ...next })
    } else {
      knots.push(end)
      from = heights.findIndex(({ width }) => width === end.width)
    }
  }
  return knots
}

/** Where a level or rising line from `start` ends, above the heights and near them; null if none is. */
function endAbove(
  start: { width: number; height: number },
  heights: PlaceHeights,
): { width: number; height: number } | null {
  const { width, height } = heights.at(-1)!
  const end = { width, height: Math.max(start.height, height) }
  const isAbove = heights.every((one) => {
    const line = start.height + ((end.height - start.height) * (one.width - start.width)) / (width - start.width)
    return line >= one.height - 0.5 && line <= one.height + SPARE_PX
  })
  return isAbove ? end : null
}

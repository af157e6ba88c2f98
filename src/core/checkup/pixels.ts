import { luminance } from '#core/look'

/** Pixels of a picture as it is drawn: RGBA, 8 bits each, row by row. */
export interface Pixels {
  data: ArrayLike<number>
  width: number
  height: number
}

export interface Area {
  left: number
  top: number
  width: number
  height: number
}

/** Side of the squares that are averaged, in CSS pixels: about the stroke of a letter, so that one bright pixel is no ground. */
const SQUARE = 4

/**
 * The colours behind a text that stands on a picture of some strength (0 to 1) over a background: the darkest,
 * the lightest, and the one nearest to the text's own luminance, on which it reads worst.
 *
 * @returns up to three `#rrggbb`, none for an area outside the picture
 */
export function coloursBehind(
  { data, width, height }: Pixels,
  area: Area,
  { background, strength, text }: { background: string; strength: number; text: string },
): string[] {
  const under = channelsOf(background)
  const wanted = luminance(text)
  let darkest: Found | null = null
  let lightest: Found | null = null
  let nearest: Found | null = null
  const { x: fromX, y: fromY, toX, toY } = squareOf(area, width, height)
  for (let y = fromY; y < toY; y += SQUARE) {
    for (let x = fromX; x < toX; x += SQUARE) {
      const square = { x, y, toX: Math.min(x + SQUARE, toX), toY: Math.min(y + SQUARE, toY) }
      const colour = hex(averageOf({ data, width }, square, under, strength))
      const seen = { colour, luminance: luminance(colour) }
      if (darkest === null || seen.luminance < darkest.luminance) darkest = seen
      if (lightest === null || seen.luminance > lightest.luminance) lightest = seen
      if (nearest === null || Math.abs(seen.luminance - wanted) < Math.abs(nearest.luminance - wanted)) nearest = seen
    }
  }
  return [...new Set([nearest, darkest, lightest].filter((one) => one !== null).map((one) => one.colour))]
}

/** The colour behind an area on the whole, `#rrggbb`; none for an area outside the picture. */
export function colourBehind(
  { data, width, height }: Pixels,
  area: Area,
  background: string,
  strength: number,
): string[] {
  const square = squareOf(area, width, height)
  return square.x >= square.toX || square.y >= square.toY
    ? []
    : [hex(averageOf({ data, width }, square, channelsOf(background), strength))]
}

function channelsOf(colour: string): number[] {
  return [1, 3, 5].map((at) => Number.parseInt(colour.slice(at, at + 2), 16))
}

/** The pixels of an area that are within the picture. */
function squareOf({ left, top, width, height }: Area, most: number, mostDown: number): Square {
  return {
    x: Math.max(0, Math.floor(left)),
    y: Math.max(0, Math.floor(top)),
    toX: Math.min(most, Math.ceil(left + width)),
    toY: Math.min(mostDown, Math.ceil(top + height)),
  }
}

interface Square {
  x: number
  y: number
  toX: number
  toY: number
}

interface Found {
  colour: string
  luminance: number
}

function averageOf(
  { data, width }: Pick<Pixels, 'data' | 'width'>,
  { x, y, toX, toY }: Square,
  under: readonly number[],
  strength: number,
): number[] {
  const sums = [0, 0, 0]
  let count = 0
  for (let row = y; row < toY; row++) {
    for (let column = x; column < toX; column++) {
      const at = (row * width + column) * 4
      const share = (data[at + 3]! / 255) * strength
      for (let channel = 0; channel < 3; channel++)
        sums[channel]! += data[at + channel]! * share + under[channel]! * (1 - share)
      count += 1
    }
  }
  return sums.map((sum) => sum / Math.max(1, count))
}

function hex(channels: readonly number[]): string {
  return `#${channels.map((channel) => Math.round(channel).toString(16).padStart(2, '0')).join('')}`
}

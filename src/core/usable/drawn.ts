/** A picture as a screen shows it: RGBA, 8 bits each, row by row. */
export interface Pixels {
  data: ArrayLike<number>
  width: number
  height: number
}

export interface Drawing {
  /** How many pixels show the element: they differ by more than what is barely noticed. */
  pixels: number
  /** WCAG contrast ratio of the strongest of them with what is there without it; 1 where nothing differs. */
  contrast: number
  /**
   * Of the strongest step between neighbouring pixels to the whole range: near 1 for letters and borders as they are drawn,
   * 1 / (σ √2π) for an edge under a Gaussian blur of standard deviation σ pixels.
   */
  sharpness: number
}

/** What is barely noticed: a fill of #f7f7f7 on white has 1.07. */
const LEAST_CONTRAST = 1.05
/** Colours of one lightness: a tenth of the way from black to white, in each channel's share. */
const LEAST_COLOUR = 24
/** The strongest are told by so many pixels: a single one may be a fault of drawing. */
const STRONGEST = 12

/**
 * What a screen shows of an element: pictures of its place with it, held against pictures without it. A pixel is of the
 * element where each picture with it differs from each without it, so that what moves by itself in the place, of others, is
 * not taken for it.
 *
 * @param withIt one or more, all of one size
 */
export function drawingOf(withIt: readonly Pixels[], without: readonly Pixels[]): Drawing {
  const [first] = withIt
  if (first === undefined || without.length === 0) return { pixels: 0, contrast: 1, sharpness: 0 }
  const { width, height } = first
  const lights = withIt.map(lightOf)
  const grounds = without.map(lightOf)
  const contrasts: number[] = []
  let pixels = 0
  let sides = { left: width, top: height, right: -1, bottom: -1 }
  for (let at = 0; at < width * height; at += 1) {
    let least = Infinity
    let isOther = true
    for (const [one, light] of lights.entries()) {
      for (const [other, ground] of grounds.entries()) {
        const contrast = ratio(light[at]!, ground[at]!)
        least = Math.min(least, contrast)
        isOther &&=
          contrast >= LEAST_CONTRAST || colourDistance(withIt[one]!.data, without[other]!.data, at) >= LEAST_COLOUR
      }
    }
    if (!isOther) continue
    pixels += 1
    contrasts.push(least)
    const [x, y] = [at % width, Math.floor(at / width)]
    sides = {
      left: Math.min(sides.left, x),
      top: Math.min(sides.top, y),
      right: Math.max(sides.right, x),
      bottom: Math.max(sides.bottom, y),
    }
  }
  if (pixels === 0) return { pixels, contrast: 1, sharpness: 0 }
  contrasts.sort((one, other) => other - one)
  return {
    pixels,
    contrast: contrasts[Math.min(STRONGEST, contrasts.length) - 1]!,
    sharpness: sharpnessOf(lights[0]!, width, height, sides),
  }
}

/** Within a rectangle and a pixel around it, by how light the pixels are to the eye: CIE L* of 1976. */
function sharpnessOf(
  lights: Float64Array,
  width: number,
  height: number,
  { left, top, right, bottom }: { left: number; top: number; right: number; bottom: number },
): number {
  let [lowest, highest, step] = [Infinity, -Infinity, 0]
  for (let y = Math.max(0, top - 1); y <= Math.min(height - 1, bottom + 1); y += 1)
    for (let x = Math.max(0, left - 1); x <= Math.min(width - 1, right + 1); x += 1) {
      const here = lightness(lights[y * width + x]!)
      lowest = Math.min(lowest, here)
      highest = Math.max(highest, here)
      if (x > 0) step = Math.max(step, Math.abs(here - lightness(lights[y * width + x - 1]!)))
      if (y > 0) step = Math.max(step, Math.abs(here - lightness(lights[(y - 1) * width + x]!)))
    }
  return highest - lowest < 1 ? 0 : step / (highest - lowest)
}

/** Relative luminance of each pixel, WCAG 2.2; what is see-through stands on white, as on a page. */
function lightOf({ data, width, height }: Pixels): Float64Array {
  const lights = new Float64Array(width * height)
  for (let at = 0; at < lights.length; at += 1) {
    const alpha = data[at * 4 + 3]! / 255
    const channel = (index: number) => linear[Math.round(data[at * 4 + index]! * alpha + 255 * (1 - alpha))]!
    lights[at] = 0.2126 * channel(0) + 0.7152 * channel(1) + 0.0722 * channel(2)
  }
  return lights
}

/** sRGB to linear light, IEC 61966-2-1, by value of 0 to 255. */
const linear = Float64Array.from({ length: 256 }, (_, value) => {
  const share = value / 255
  return share <= 0.04045 ? share / 12.92 : ((share + 0.055) / 1.055) ** 2.4
})

function ratio(one: number, other: number): number {
  return (Math.max(one, other) + 0.05) / (Math.min(one, other) + 0.05)
}

/** CIE 1976 L*, 0 to 100. */
function lightness(luminance: number): number {
  return luminance > 216 / 24_389 ? 116 * Math.cbrt(luminance) - 16 : (luminance * 24_389) / 27
}

function colourDistance(one: ArrayLike<number>, other: ArrayLike<number>, at: number): number {
  const far = (index: number) => (one[at * 4 + index]! - other[at * 4 + index]!) ** 2
  return Math.sqrt((far(0) + far(1) + far(2)) / 3)
}

/** Lightness 0 to 1, chroma from 0, hue in degrees. */
export interface Oklch {
  lightness: number
  chroma: number
  hue: number
}

/** sRGB to OKLCH: CSS Color Module Level 4, section 9.2; the matrices are those of Björn Ottosson, "A perceptual color space for image processing" (2020). */
export function oklchOf(hex: string): Oklch {
  const value = Number.parseInt(hex.slice(1), 16)
  const [red, green, blue] = [(value >> 16) & 255, (value >> 8) & 255, value & 255].map((channel) =>
    toLinear(channel / 255),
  ) as Triple
  const long = Math.cbrt(0.4122214708 * red + 0.5363325363 * green + 0.0514459929 * blue)
  const medium = Math.cbrt(0.2119034982 * red + 0.6806995451 * green + 0.1073969566 * blue)
  const short = Math.cbrt(0.0883024619 * red + 0.2817188376 * green + 0.6299787005 * blue)
  const lightness = 0.2104542553 * long + 0.793617785 * medium - 0.0040720468 * short
  const a = 1.9779984951 * long - 2.428592205 * medium + 0.4505937099 * short
  const b = 0.0259040371 * long + 0.7827717662 * medium - 0.808675766 * short
  const hue = (Math.atan2(b, a) * 180) / Math.PI
  return { lightness, chroma: Math.hypot(a, b), hue: hue < 0 ? hue + 360 : hue }
}

/** Halves the chroma that is searched through this often: to 1/16384 of it, far finer than a channel's 256 steps. */
const HALVINGS = 14

/** OKLCH to `#rrggbb`. Chroma is lowered, hue and lightness kept, until the colour is one that screens can show. */
export function hexOf({ lightness, chroma, hue }: Oklch): string {
  const along = Math.cos((hue * Math.PI) / 180)
  const across = Math.sin((hue * Math.PI) / 180)
  const at = (chroma: number) => linearOf(lightness, chroma * along, chroma * across)
  let shown = at(chroma)
  if (!isInGamut(shown)) {
    let [least, most] = [0, chroma]
    for (let round = 0; round < HALVINGS; round++) {
      const middle = (least + most) / 2
      if (isInGamut(at(middle))) least = middle
      else most = middle
    }
    shown = at(least)
  }
  const channels = shown.map((channel) => Math.round(255 * Math.min(1, Math.max(0, fromLinear(channel)))))
  return `#${channels.map((channel) => channel.toString(16).padStart(2, '0')).join('')}`
}

type Triple = [number, number, number]

/** Linear sRGB of a colour in OKLab. */
function linearOf(lightness: number, a: number, b: number): Triple {
  const long = cube(lightness + 0.3963377774 * a + 0.2158037573 * b)
  const medium = cube(lightness - 0.1055613458 * a - 0.0638541728 * b)
  const short = cube(lightness - 0.0894841775 * a - 1.291485548 * b)
  return [
    4.0767416621 * long - 3.3077115913 * medium + 0.2309699292 * short,
    -1.2684380046 * long + 2.6097574011 * medium - 0.3413193965 * short,
    -0.0041960863 * long - 0.7034186147 * medium + 1.707614701 * short,
  ]
}

const cube = (value: number) => value * value * value

function isInGamut(linear: Triple): boolean {
  for (const channel of linear) if (channel < -0.0001 || channel > 1.0001) return false
  return true
}

/** IEC 61966-2-1, the transfer function of sRGB. */
function toLinear(channel: number): number {
  return channel <= 0.04045 ? channel / 12.92 : ((channel + 0.055) / 1.055) ** 2.4
}

function fromLinear(channel: number): number {
  return channel <= 0.0031308 ? channel * 12.92 : 1.055 * channel ** (1 / 2.4) - 0.055
}

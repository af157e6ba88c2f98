import { z } from 'zod'
import { contrast, mended, PART_CONTRAST, TEXT_CONTRAST } from './contrast'
import { mix } from './colour'
import { colourSchema, type Look } from './look'
import { mannerSchema } from './manner'
import { hexOf, oklchOf } from './oklch'

/** The colours of a site: what a form on it should look at home with. */
export const paletteSchema = z.strictObject({
  background: colourSchema,
  text: colourSchema,
  /** The site's own emphasis: buttons, links. */
  accent: colourSchema,
  /** All that were found, most used first. */
  colours: z.array(colourSchema).max(40),
  /** The `font-family` of the site's text, for the owner's information; forms inherit it. */
  font: z.string().max(300),
  /** What else its forms should do alike; missing where nobody has read it. */
  manner: mannerSchema.optional(),
})
export type Palette = z.infer<typeof paletteSchema>

/** For sites whose colours nobody has taken yet. */
export const quietPalette: Palette = {
  background: '#ffffff',
  text: '#2b2b33',
  accent: '#2f5d50',
  colours: ['#ffffff', '#2b2b33', '#2f5d50', '#f4f1ea'],
  font: '',
}

/** White or the palette's darkest, whichever reads better on a colour. */
export function textOn(colour: string, { text, background }: Palette): string {
  const best = [text, background, '#ffffff', '#1b1b1f'].sort(
    (one, other) => contrast(other, colour) - contrast(one, colour),
  )[0]!
  return mended(best, [{ grounds: [colour], wanted: TEXT_CONTRAST }]) ?? best
}

/** Colours for a form on its own ground: on the site's background, on a tint of its accent, or on the accent itself. */
export function coloursFrom(palette: Palette, ground: 'page' | 'tint' | 'accent' | 'night'): Look['colours'] {
  const background = {
    page: palette.background,
    tint: tintOf(palette),
    accent: palette.accent,
    night: nightOf(palette),
  }[ground]
  const text = textOn(background, palette)
  const wanted = ground === 'accent' || ground === 'night' ? textOn(background, palette) : palette.accent
  // A button that its ground swallows is no button: it needs the contrast of a part.
  const button = mended(wanted, [{ grounds: [background], wanted: PART_CONTRAST }]) ?? text
  return { background, text, button, buttonText: textOn(button, palette), field: null, edge: null }
}

/** The page's own ground with a little of its emphasis in it: a tint from anywhere else lies cold on a warm page. */
function tintOf({ background, accent }: Palette): string {
  return mix(accent, background, oklchOf(background).lightness > 0.6 ? 0.075 : 0.14)
}

function nightOf({ accent }: Palette): string {
  const own = oklchOf(accent)
  return fromOklch(0.27, Math.min(own.chroma, 0.045), own.hue)
}

const fromOklch = (lightness: number, chroma: number, hue: number) => hexOf({ lightness, chroma, hue })

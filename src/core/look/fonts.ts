/**
 * Kinds of type, each a stack of fonts that systems bring along, so that nothing is loaded. `shipped` is the
 * one that the receiver serves itself. Which systems bring which font is common knowledge of the trade, from memory.
 */
const stacks = {
  site: { name: 'The site’s own', css: 'inherit' },
  system: { name: 'System', css: 'system-ui,sans-serif' },
  humanist: { name: 'Humanist', css: 'Seravek,"Gill Sans Nova",Ubuntu,Calibri,"DejaVu Sans",sans-serif' },
  geometric: { name: 'Geometric', css: 'Avenir,Montserrat,Corbel,"URW Gothic",sans-serif' },
  bookish: { name: 'Bookish', css: '"Iowan Old Style","Palatino Linotype","URW Palladio L",P052,serif' },
  modern: { name: 'Modern serif', css: 'Didot,"Bodoni MT","Noto Serif Display","URW Palladio L",Georgia,serif' },
  slab: { name: 'Slab', css: 'Rockwell,"Rockwell Nova","Roboto Slab","DejaVu Serif",serif' },
  typewriter: {
    name: 'Typewriter',
    css: 'ui-monospace,"Cascadia Code","Source Code Pro",Menlo,Consolas,"DejaVu Sans Mono",monospace',
  },
  shipped: { name: 'Source Sans, shipped', css: '"Ask Box Sans",system-ui,sans-serif' },
} as const

export type FontKey = keyof typeof stacks
export const fontKeys = Object.keys(stacks) as [FontKey, ...FontKey[]]
export const fontName = (key: FontKey): string => stacks[key].name
/** Value of CSS `font-family`. */
export const fontStack = (key: FontKey): string => stacks[key].css
/** Path at the receiver of the shipped font's file. */
export const SHIPPED_FONT_PATH = '/font/ask-box-sans.woff2'

/** The stack nearest to a site's own `font-family`, for pages that stand outside the site and cannot inherit from it. */
export function nearestFont(family: string): FontKey {
  if (/mono|courier|consolas|menlo/i.test(family)) return 'typewriter'
  if (/rockwell|slab/i.test(family)) return 'slab'
  if (/(?<!sans-)\bserif\b|georgia|times|palatino|garamond|lora|merriweather|baskerville/i.test(family))
    return 'bookish'
  if (/futura|avenir|montserrat|poppins|nunito|gothic/i.test(family)) return 'geometric'
  if (/gill|optima|candara|calibri|seravek|verdana|tahoma/i.test(family)) return 'humanist'
  return 'system'
}

import { generate, walk, type CssNode } from 'css-tree'
import { formatHex, interpolate, parse as parseColour, type Color } from 'culori'
import { styleSheetIn } from '#core/html'
import { contrast, mix, oklchOf, type Palette, textOn } from '#core/look'
import { atTopLevel } from './commas'
import { parseSheet } from './parse'

export interface FoundColour {
  colour: string
  /** How often the page uses it. */
  uses: number
}

export type PaletteReading = { ok: true; palette: Palette; found: FoundColour[] } | { ok: false; message: string }

interface Use {
  selector: string
  property: string
  colours: Color[]
  value: string
}

const MAX_LENGTH = 4_000_000

/**
 * Colours and type of a site from what its owner pasted: a style sheet, or a page whose `<style>` elements
 * and `style` attributes are read. Custom properties are resolved; every syntax of CSS Color Level 4 is
 * understood (by culori), and `color-mix()` and `light-dark()` of Level 5. Ranked by use.
 */
export function paletteIn(pasted: string): PaletteReading {
  if (pasted.length > MAX_LENGTH)
    return { ok: false, message: 'This is more than a page or a style sheet holds. Paste one page at a time.' }
  const uses = usesIn(styleSheetIn(pasted))
  const counted = new Map<string, number>()
  const background = solid(colourFor(uses, BODY, ['background-color', 'background']) ?? null, '#ffffff') ?? '#ffffff'
  for (const { colours } of uses) {
    for (const colour of colours) {
      const hex = solid(colour, background)
      if (hex !== null) counted.set(hex, (counted.get(hex) ?? 0) + 1)
    }
  }
  const found = [...counted]
    .map(([colour, times]) => ({ colour, uses: times }))
    .sort((one, other) => other.uses - one.uses)
  if (found.length === 0)
    return {
      ok: false,
      message: 'There is no colour in this. Paste the page’s source, or the text of its style sheet.',
    }

  const text =
    solid(colourFor(uses, BODY, ['color']) ?? colourFor(uses, PARAGRAPH, ['color']) ?? null, background) ??
    mostReadable(found, background)
  const accent =
    chromatic(uses, BUTTON, ['background-color', 'background'], background) ??
    chromatic(uses, LINK, ['color'], background) ??
    found.find(({ colour }) => oklchOf(colour).chroma > 0.05 && colour !== background && colour !== text)?.colour ??
    text
  const font =
    uses.find(
      ({ selector, property, value }) => BODY.test(selector) && property === 'font-family' && value !== 'inherit',
    )?.value ?? ''
  return {
    ok: true,
    found,
    palette: {
      background,
      text,
      accent,
      colours: found.slice(0, 24).map(({ colour }) => colour),
      font: font.slice(0, 300),
    },
  }
}

const BODY = /(^|,)\s*(html|body|:root)\s*(,|$)/i
const PARAGRAPH = /(^|[\s,>])p\s*(,|$)/i
const BUTTON =
  /(^|[\s,>])(button|\[type=["']?submit["']?\]|input\[type=["']?submit["']?\]|[\w-]*\.[\w-]*(btn|button|cta)[\w-]*)(:not\([^)]*\))?\s*(,|$)/i
const LINK = /(^|[\s,>])a(:(any-)?link)?\s*(,|$)/i

function usesIn(css: string): Use[] {
  const sheet = parseSheet(css, { parseCustomProperty: true, onParseError: () => {} })
  const properties = new Map<string, CssNode>()
  const declared: { selector: string; property: string; value: CssNode }[] = []
  walk(sheet, {
    visit: 'Declaration',
    enter(node) {
      const selector = this.rule === null ? '' : generate(this.rule.prelude)
      const isDarkScheme =
        this.atrule?.name === 'media' &&
        this.atrule.prelude !== null &&
        /dark|print/.test(generate(this.atrule.prelude))
      // What holds only in the dark or on paper is not how visitors know the site.
      if (isDarkScheme || /\.dark|\[data-[\w-]*=["']?dark/.test(selector)) return
      if (node.property.startsWith('--')) properties.set(node.property, node.value)
      else declared.push({ selector, property: node.property.toLowerCase(), value: node.value })
    },
  })
  return declared.map(({ selector, property, value }) => {
    const colours: Color[] = []
    const resolved = resolve(value, properties, [])
    if (/color|background|border|outline|fill|stroke|shadow|decoration|caret/.test(property)) collect(resolved, colours)
    return { selector, property, colours, value: generate(resolved).trim() }
  })
}

/** The value with `var()` replaced by what it stands for, or by its fallback; a property that names itself stands for nothing. */
function resolve(value: CssNode, properties: ReadonlyMap<string, CssNode>, within: readonly string[]): CssNode {
  const text = generate(value)
  if (!text.includes('var(') || within.length > 20) return value
  let changed = ''
  for (let rest = text; ;) {
    const start = rest.search(/\bvar\(/)
    if (start < 0) {
      changed += rest
      break
    }
    const end = closing(rest, start + 3)
    const [name = '', ...fallback] = rest.slice(start + 4, end).split(',')
    const known = within.includes(name.trim()) ? undefined : properties.get(name.trim())
    const replacement =
      known !== undefined ? generate(resolve(known, properties, [...within, name.trim()])) : fallback.join(',')
    changed += `${rest.slice(0, start)} ${replacement} `
    rest = rest.slice(end + 1)
  }
  try {
    const parsed = parseSheet(changed, { context: 'value' })
    return fallbackNeedsWork(parsed) && changed !== text ? resolve(parsed, properties, [...within, '']) : parsed
  } catch {
    return value
  }
}

function fallbackNeedsWork(value: CssNode): boolean {
  return generate(value).includes('var(')
}

/** Place of the bracket that closes the one at `open`. */
function closing(text: string, open: number): number {
  let depth = 0
  for (let at = open; at < text.length; at++) {
    if (text[at] === '(') depth++
    else if (text[at] === ')' && --depth === 0) return at
  }
  return text.length
}

const COLOUR_FUNCTIONS = /^(rgba?|hsla?|hwb|lab|lch|oklab|oklch|color)$/i

function collect(value: CssNode, into: Color[]): void {
  walk(value, function (node) {
    if (node.type === 'Hash') add(`#${node.value}`, into)
    else if (node.type === 'Identifier' && !/^(currentcolor|transparent|inherit|initial|unset|none)$/i.test(node.name))
      add(node.name, into)
    else if (node.type === 'Function') {
      const name = node.name.toLowerCase()
      if (COLOUR_FUNCTIONS.test(name)) add(generate(node), into)
      else if (name === 'color-mix') mixed(generate(node), into)
      else if (name === 'light-dark') {
        const first = atTopLevel(generate(node).slice('light-dark('.length))[0] ?? ''
        add(first, into)
      } else return undefined
      return walk.skip
    }
    return undefined
  })
}

function add(text: string, into: Color[]): void {
  const colour = parseColour(text.trim())
  if (colour !== undefined) into.push(colour)
}

const MIX_SPACES: Record<string, 'rgb' | 'oklab' | 'oklch' | 'lab' | 'lch' | 'hsl' | 'hwb' | 'lrgb'> = {
  srgb: 'rgb',
  'srgb-linear': 'lrgb',
  oklab: 'oklab',
  oklch: 'oklch',
  lab: 'lab',
  lch: 'lch',
  hsl: 'hsl',
  hwb: 'hwb',
}

/** `color-mix()`: CSS Color Module Level 5, section 3. Percentages that do not add up are scaled, as there. */
function mixed(text: string, into: Color[]): void {
  const [space = '', ...parts] = atTopLevel(text.slice('color-mix('.length, -1))
  const mode = MIX_SPACES[/in\s+([\w-]+)/.exec(space)?.[1] ?? '']
  const [one, other] = parts.map((part) => {
    // A percentage is no longer than this in any style sheet; a bound keeps the reading in step with the text's length.
    const share = /(?<![\d.])[\d.]{1,12}(?=%)/.exec(part)?.[0]
    return { colour: parseColour((share === undefined ? part : part.replace(`${share}%`, ' ')).trim()), share }
  })
  if (mode === undefined || one?.colour === undefined || other?.colour === undefined) return
  const first = one.share !== undefined ? Number(one.share) : other.share !== undefined ? 100 - Number(other.share) : 50
  const second = other.share !== undefined ? Number(other.share) : 100 - first
  if (first + second > 0) into.push(interpolate([one.colour, other.colour], mode)(second / (first + second)))
}

/** As it looks on the page's background; null for one that is not to be seen. */
function solid(colour: Color | null, background: string): string | null {
  if (colour === null) return null
  const alpha = colour.alpha ?? 1
  const hex = formatHex(colour)
  if (hex === undefined || alpha < 0.04) return null
  return alpha >= 1 ? hex : mix(hex, background, alpha)
}

function colourFor(uses: readonly Use[], selector: RegExp, properties: readonly string[]): Color | undefined {
  return uses
    .filter((use) => selector.test(use.selector) && properties.includes(use.property) && use.colours.length > 0)
    .at(-1)?.colours[0]
}

function chromatic(
  uses: readonly Use[],
  selector: RegExp,
  properties: readonly string[],
  background: string,
): string | null {
  for (const use of uses) {
    if (!selector.test(use.selector) || !properties.includes(use.property)) continue
    const hex = solid(use.colours[0] ?? null, background)
    if (hex !== null && hex !== background && oklchOf(hex).chroma > 0.03) return hex
  }
  return null
}

function mostReadable(found: readonly FoundColour[], background: string): string {
  const readable = found.find(({ colour }) => contrast(colour, background) >= 7)
  return (
    readable?.colour ?? textOn(background, { background, text: '#222222', accent: '#222222', colours: [], font: '' })
  )
}

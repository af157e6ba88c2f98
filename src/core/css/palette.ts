import { generate, walk, type CssNode } from 'css-tree'
import { formatHex, interpolate, parse as parseColour, type Color } from 'culori'
import { styleSheetIn } from '#core/html'
import { contrast, type Manner, mix, oklchOf, type Palette, textOn } from '#core/look'
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
  const ranked = [...counted]
    .map(([colour, times]) => ({ colour, uses: times }))
    .sort((one, other) => other.uses - one.uses)
  if (ranked.length === 0)
    return {
      ok: false,
      message: 'There is no colour in this. Paste the page’s source, or the text of its style sheet.',
    }

  const text =
    solid(colourFor(uses, BODY, ['color']) ?? colourFor(uses, PARAGRAPH, ['color']) ?? null, background) ??
    mostReadable(ranked, background)
  const acting = actingColour(uses, background)
  const accent =
    acting ??
    chromatic(uses, LINK, ['color'], background) ??
    ranked.find(({ colour }) => oklchOf(colour).chroma > 0.05 && colour !== background && colour !== text)?.colour ??
    text
  const font =
    uses.find(
      ({ selector, property, value }) => isOf(BODY, selector) && property === 'font-family' && value !== 'inherit',
    )?.value ?? ''
  return {
    ok: true,
    found: ranked,
    palette: {
      background,
      text,
      accent,
      colours: ranked.slice(0, 24).map(({ colour }) => colour),
      font: font.slice(0, 300),
      manner: mannerIn(uses, font, acting === null),
    },
  }
}

const ROOT = /^(?:html|body|:root|:host|\*)$/i
const BODY = /^(?:html|body|:root)$/i
const PARAGRAPH = /(?:^|[\s>])p$/i
const BUTTON =
  /(?:^|[\s>])(?:button|\[type=["']?submit["']?\]|input\[type=["']?submit["']?\]|[\w-]*\.[\w-]*(?:btn|button|cta)[\w-]*)$/i
/** Declarations common to all buttons of a site, before their kinds differ. */
const PLAIN_BUTTON = /^(?:button|(?:input)?\[type=["']?submit["']?\]|a?\.(?:btn|button))$/i
const FIELD = /(?:^|[\s>])(?:input(?:\[type=["']?(?:text|email)["']?\])?|textarea)$/i
const HEADING = /(?:^|[\s>])h[12]$/i
/** Of buttons, those that a page wants to be pressed; and those that are for something else. */
const MAIN_BUTTON = /primary|cta|submit|accent|brand/i
const OTHER_BUTTON =
  /danger|alert|warn|success|error|info|second|tertiary|close|disabled|ghost|light|dark|link|outline|hollow|clear|subtle|group|toolbar|toggle/i
const MAIN_PROPERTY = /^--[\w-]*(?:primary|accent|brand|cta)(?:-(?:color|colour|bg|background|500|600))?$/i
const LINK = /(?:^|[\s>])a(?::(?:any-)?link)?$/i

/** Whether one of several selectors matches a kind; `:not()` and `:where()` are left aside. */
function isOf(kind: RegExp, selectors: string): boolean {
  return atTopLevel(selectors).some((selector) => kind.test(bareSelector(selector)))
}

/** Without `:not()`, and without `:where()` and `:is()` around it. */
function bareSelector(selector: string): string {
  let bare = ''
  for (let rest = selector.trim(); rest !== '';) {
    const at = rest.search(/:(?:not|where|is)\(/)
    if (at < 0) return bare + rest
    const open = rest.indexOf('(', at)
    const end = closing(rest, open)
    bare += rest.slice(0, at) + (rest.startsWith(':not', at) ? '' : rest.slice(open + 1, end))
    rest = rest.slice(end + 1)
  }
  return bare
}

function usesIn(css: string): Use[] {
  const sheet = parseSheet(css, { parseCustomProperty: true, onParseError: () => {} })
  const properties = new Map<string, { value: string; isOfRoot: boolean }>()
  const declared: { selector: string; property: string; value: string }[] = []
  const selectors = new WeakMap<object, { text: string; isOfRoot: boolean; isDark: boolean }>()
  const ofRule = (rule: { prelude: CssNode } | null) => {
    if (rule === null) return { text: '', isOfRoot: false, isDark: false }
    const parsed = selectors.get(rule)
    if (parsed !== undefined) return parsed
    const text = generate(rule.prelude)
    const made = {
      text,
      isOfRoot: isOf(ROOT, text) || /\[data-[\w-]*=["']?light/.test(text),
      isDark: atTopLevel(text).every((one) => /\.dark|\[data-[\w-]*=["']?dark/.test(bareSelector(one))),
    }
    selectors.set(rule, made)
    return made
  }
  walk(sheet, {
    visit: 'Declaration',
    enter(node) {
      const { text: selector, isOfRoot, isDark } = ofRule(this.rule)
      const isDarkScheme =
        this.atrule?.name === 'media' &&
        this.atrule.prelude !== null &&
        /dark|print/.test(generate(this.atrule.prelude))
      // Rules for dark schemes and print: visitors know the site without them.
      if (isDarkScheme || isDark) return
      const value = generate(node.value).trim()
      if (!node.property.startsWith('--')) declared.push({ selector, property: node.property.toLowerCase(), value })
      // Custom properties of a component do not hold for the page.
      else if (isOfRoot || properties.get(node.property)?.isOfRoot !== true)
        properties.set(node.property, { value, isOfRoot })
    },
  })
  for (const [property, { value, isOfRoot }] of properties)
    if (isOfRoot && MAIN_PROPERTY.test(property)) declared.push({ selector: ':root', property, value })
  const resolved = resolver(properties)
  return declared.map(({ selector, property, value }) => {
    const colours: Color[] = []
    const text = resolved(value)
    if (/color|background|border|outline|fill|stroke|shadow|decoration|caret|^--/.test(property)) collect(text, colours)
    return { selector, property, colours, value: text }
  })
}

/** No value of a style sheet is longer; properties that double each other end here. */
const LONGEST_VALUE = 20_000

/** Substitutes `var()` by its custom property or its fallback; a cycle makes it invalid (CSS Custom Properties 1, 3). */
function resolver(properties: ReadonlyMap<string, { value: string }>): (text: string) => string {
  const values = new Map<string, string>()
  const resolve = (text: string, within: readonly string[]): string => {
    if (!text.includes('var(') || within.length > 20) return text
    let changed = ''
    for (let rest = text; ;) {
      const start = rest.search(/\bvar\(/)
      if (start < 0 || changed.length > LONGEST_VALUE) return (changed + rest).trim()
      const end = closing(rest, start + 3)
      const [name = '', ...fallback] = rest.slice(start + 4, end).split(',')
      changed += `${rest.slice(0, start)} ${standsFor(name.trim(), fallback.join(','), within)} `
      rest = rest.slice(end + 1)
    }
  }
  const standsFor = (name: string, fallback: string, within: readonly string[]): string => {
    const own = within.includes(name) ? undefined : properties.get(name)
    if (own === undefined) return resolve(fallback, [...within, ''])
    const ready = values.get(name)
    if (ready !== undefined) return ready
    const value = resolve(own.value, [...within, name])
    if (within.length === 0) values.set(name, value)
    return value
  }
  return (text) => resolve(text, [])
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
/** A quoted text, a colour in digits, or a name that may begin a function. */
const PARTS = /"[^"]*"|'[^']*'|#[0-9a-f]{3,8}(?![\w-])|-?[a-z_][\w-]*/gi

/** All colours in a value, wherever in it they stand. */
function collect(value: string, into: Color[]): void {
  PARTS.lastIndex = 0
  for (let part = PARTS.exec(value); part !== null; part = PARTS.exec(value)) {
    const [text] = part
    const after = part.index + text.length
    if (/^["']/.test(text)) continue
    if (value[after] !== '(') {
      if (!/^(currentcolor|transparent|inherit|initial|unset|none)$/i.test(text)) add(text, into)
      continue
    }
    const end = closing(value, after)
    const whole = value.slice(part.index, end + 1)
    const name = text.toLowerCase()
    if (COLOUR_FUNCTIONS.test(name)) add(whole, into)
    else if (name === 'color-mix') mixed(whole, into)
    else if (name === 'light-dark') add(atTopLevel(whole.slice('light-dark('.length, -1))[0] ?? '', into)
    // A picture's address or an attribute's name is no colour.
    else if (name !== 'url' && name !== 'attr') continue
    PARTS.lastIndex = end + 1
  }
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
    .filter((use) => isOf(selector, use.selector) && properties.includes(use.property) && use.colours.length > 0)
    .at(-1)?.colours[0]
}

/**
 * The colour that acts: of the buttons that a page wants to be pressed, of buttons without a name, of what the site itself
 * calls its main colour, then of any other button that is not for something else. Of rules for the same, the last holds.
 */
function actingColour(uses: readonly Use[], background: string): string | null {
  const byRank: (string | null)[] = [null, null, null, null]
  for (const { selector, property, colours } of uses) {
    const isMain = MAIN_PROPERTY.test(property)
    if (!isMain && property !== 'background-color' && property !== 'background') continue
    const hex = solid(colours[0] ?? null, background)
    if (hex === null || hex === background || oklchOf(hex).chroma <= 0.03) continue
    if (isMain) {
      byRank[2] ??= hex
      continue
    }
    for (const one of atTopLevel(selector)
      .map(bareSelector)
      .filter((one) => BUTTON.test(one))) {
      if (OTHER_BUTTON.test(one)) continue
      if (MAIN_BUTTON.test(one)) byRank[0] ??= hex
      else if (/(?:^|[\s>])button$/i.test(one)) byRank[1] = hex
      else byRank[3] ??= hex
    }
  }
  return byRank.find((one) => one !== null) ?? null
}

/**
 * How the site does headings, corners, buttons and room, as far as its rules say so.
 *
 * @param isQuiet whether no button of it has a colour that acts
 */
function mannerIn(uses: readonly Use[], font: string, isQuiet: boolean): Manner {
  const last = (kind: RegExp, ...properties: string[]) =>
    uses.findLast(({ selector, property, value }) => {
      const isOther = kind === BUTTON && OTHER_BUTTON.test(selector) && !MAIN_BUTTON.test(selector)
      return (
        properties.includes(property) && isOf(kind, selector) && !isOther && !/^(?:inherit|initial|unset)/.test(value)
      )
    })?.value
  const weight = Number(last(HEADING, 'font-weight')?.replace('normal', '400').replace('bold', '700') ?? NaN)
  const family = last(HEADING, 'font-family')
  const fieldCorner = cornerOf(last(FIELD, 'border-radius'))
  const buttonCorner = cornerOf(last(PLAIN_BUTTON, 'border-radius'))
  const ground = last(PLAIN_BUTTON, 'background-color', 'background')
  const [room] = (last(PLAIN_BUTTON, 'padding', 'padding-block', 'padding-top') ?? '').split(' ').map(pixels)
  const manner = {
    headingWeight: weight >= 350 ? (String(Math.min(800, Math.round(weight / 100) * 100)) as '700') : undefined,
    headingFamily: family !== undefined && family !== font && /^[\w\s,"'-]{1,200}$/.test(family) ? family : undefined,
    fieldCorner,
    buttonCorner,
    buttonFill:
      isQuiet &&
      ground !== undefined &&
      /^(?:transparent|none|0 0)$/.test(ground) &&
      last(PLAIN_BUTTON, 'border', 'border-color')
        ? ('outline' as const)
        : undefined,
    size:
      room === undefined || !(room > 0)
        ? undefined
        : room >= 14
          ? ('large' as const)
          : room <= 5
            ? ('small' as const)
            : ('medium' as const),
  }
  return Object.fromEntries(Object.entries(manner).filter(([, value]) => value !== undefined))
}

/** A `border-radius` as the corner of a field or button; one that makes round ends is the largest offered. */
function cornerOf(value: string | undefined): number | undefined {
  const [first = ''] = (value ?? '').split(/[\s/]/)
  if (/^[\d.]+%$/.test(first)) return Number.parseFloat(first) >= 40 ? 40 : undefined
  const px = pixels(first)
  return Number.isNaN(px) ? undefined : Math.min(40, Math.round(px))
}

/** A length in CSS pixels, `1em` being 16; NaN for any other value. */
function pixels(length: string): number {
  const [, number = '', unit = ''] = /^(\d{0,6}(?:\.\d{1,6})?)(px|rem|em)?$/.exec(length) ?? []
  return number === '' || (unit === '' && Number(number) !== 0) ? NaN : Number(number) * (unit === 'px' ? 1 : 16)
}

function chromatic(
  uses: readonly Use[],
  selector: RegExp,
  properties: readonly string[],
  background: string,
): string | null {
  for (const use of uses) {
    if (!isOf(selector, use.selector) || !properties.includes(use.property)) continue
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

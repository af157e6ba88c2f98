import type { Field, FormContent } from '#core/form'
import type { SpotId } from '#core/ids'
import {
  type CustomRule,
  fieldColours,
  followsPage,
  fontStack,
  isDark,
  type Look,
  mended,
  movesBoxes,
  SHIPPED_FONT_PATH,
  TEXT_CONTRAST,
  type TextKey,
  textKeys,
  withinForm,
} from '#core/look'
import { saysNothing } from '#core/text'
import type { PlacedForm } from './placed'

/** Up to this page width, in CSS pixels, a visitor counts as being on a phone. */
export const PHONE_WIDTH = 480

/** The class that keeps one spot's styles apart from every other form on the page. */
export function scopeOf(spot: SpotId): string {
  return `askbox-at-${spot}`
}

/**
 * The form's style sheet, scoped to its spot. It begins by taking back whatever the site says about the
 * form's elements (`all:revert`), and no element has the two ids in `:not()`, so they only give the rules
 * more weight than those of a site that styles by id. Custom properties come first, so that pasted code can
 * be recoloured by hand. Only rules that the content needs are written. Colours and lengths are checked
 * tokens (see `core/look`), so nothing anybody typed can add a rule.
 */
export function formStyles({ content, spot, receiver }: Pick<PlacedForm, 'content' | 'spot' | 'receiver'>): string {
  const { look } = content
  const scope = `.${scopeOf(spot)}:not(#a#b)`
  if (look.dress === 'site') return siteDress(content, scope, `.${scopeOf(spot)}`)
  const rules = [
    ...formRules(content),
    ...wordRules(content),
    ...fieldRules(content),
    ...buttonRules(content),
    ...ownTextRules(content),
    ...resultRules(look),
  ]
  return [
    look.type.font === 'shipped' &&
      `@font-face{font-family:"Ask Box Sans";src:url(${receiver}${SHIPPED_FONT_PATH}) format("woff2");font-weight:200 900;font-display:swap}`,
    `${scope},${scope} *{all:revert;box-sizing:border-box}`,
    `${scope}::before,${scope}::after,${scope} *::before,${scope} *::after{content:none}`,
    `${scope}::first-letter,${scope} *::first-letter{all:revert}`,
    // What a site says of everything, with weight of its own, neither shows a style sheet as text nor what is hidden.
    `${scope} style,${scope}[hidden],${scope} [hidden]{display:none!important}`,
    `${scope} *{color:inherit!important;background:none!important}`,
    ...rules.map(([selector, declarations]) => `${selectorIn(scope, selector)}{${insistent(declarations)}}`),
    ...roomyRules(content, scope),
    ...phoneRules(content, scope),
    ...conditionRules(content.fields, scope),
    ...entranceRules(look, scope),
    ...customRules(look.custom.rules, scope),
  ]
    .filter(Boolean)
    .join('\n')
}

/**
 * For a form that wears the site's styles: what it needs to work, the owner's own rules, and, where the site has no styles for
 * forms, the least that makes it look like one; whatever the site says of such elements has more weight (`:where`).
 */
function siteDress({ fields, look }: FormContent, scope: string, where: string): string {
  const least: Rule[] = [
    ['', 'max-width:32em'],
    ['.askbox-label', 'display:block;margin:0 0 .25em;font-weight:600'],
    [
      '.askbox-input',
      'display:block;box-sizing:border-box;width:100%;padding:.55em .7em;border:1px solid color-mix(in srgb,currentColor 55%,transparent);border-radius:4px;font:inherit',
    ],
    [
      '.askbox-button',
      'padding:.55em 1.2em;border:1px solid currentColor;border-radius:4px;font:inherit;font-weight:600;cursor:pointer',
    ],
    ['.askbox-small', 'margin:.75em 0 0;font-size:.875em'],
  ]
  const needed: Rule[] = [
    ['style,[hidden]', 'display:none!important'],
    ['.askbox-heard', 'position:absolute;width:1px;height:1px;overflow:hidden;clip-path:inset(50%);white-space:nowrap'],
    ['.askbox-error', 'display:block;font-weight:600'],
    ['.askbox-hint', 'display:block'],
    ['.askbox-field', 'margin:0 0 .75em'],
    ['.askbox-button', 'min-height:24px'],
    // Apart enough to be hit, however small the site's boxes are: WCAG 2.2, 2.5.8.
    ['.askbox-option', 'display:flex;gap:.5em;align-items:center;min-height:28px'],
    ['img', 'max-width:100%;height:auto'],
  ]
  return [
    ...least.map(
      ([selector, declarations]) => `:where(${selector === '' ? where : `${where} ${selector}`}){${declarations}}`,
    ),
    ...needed.map(([selector, declarations]) => `${selectorIn(scope, selector)}{${declarations}}`),
    ...conditionRules(fields, scope),
    ...customRules(look.custom.rules, scope),
  ].join('\n')
}

type Rule = [selector: string, declarations: string]

/** Dark themes say with weight which colours all words and grounds have; of words and their ground, both or neither can be theirs. */
const INSISTENT = /^(?:color|background[\w-]*|-webkit-text-fill-color)$/

function insistent(declarations: string): string {
  return declarations.replace(/(?<=^|;)([\w-]+):([^;]+)/g, (whole, property: string, value: string) =>
    INSISTENT.test(property) && !value.endsWith('!important') ? `${property}:${value}!important` : whole,
  )
}

/** Each of several selectors, separated by commas, within the form. An empty one is the form itself. */
function selectorIn(scope: string, selectors: string): string {
  return selectors
    .split(',')
    .map((selector) => (selector === '' ? scope : `${scope} ${selector}`))
    .join()
}

/** Custom properties once had these names, and own CSS that was written then may still use them. */
function olderNames(rules: readonly CustomRule[]): string {
  const values = rules.flatMap(({ declarations }) => declarations.map(({ value }) => value)).join(' ')
  return ['background', 'text', 'button', 'button-text', 'field', 'edge']
    .filter((name) => values.includes(`var(--${name})`))
    .map((name) => `--${name}:var(--askbox-${name});`)
    .join('')
}

/** Text of a form is never smaller than this, in CSS pixels, on sites that set their root's text to 10 px. */
const LEAST_TEXT_PX = 14

/** Straight in a row, a grid or a column of the page, a form has the room that is there, and never that of one letter. */
export const PLACE_STYLE = 'width:100%;min-width:min(100%,15em)'

/** CSS pixels as `em`, so that all of it grows with the page's text. */
function em(px: number): string {
  return px === 0 ? '0' : `${Number((px / 16).toFixed(3))}em`
}

function formRules(content: FormContent): Rule[] {
  const { look, language } = content
  const { colours, space, border, ground, type, custom } = look
  const own = fieldColours(look)
  const ofPage = followsPage(look)
  // On a page that may be light or dark, everything is made of the colour that its words have.
  const mixed = (share: number) => `color-mix(in srgb,currentColor ${share}%,transparent)`
  const field = ofPage ? (colours.field ?? mixed(6)) : own.field
  const edge = ofPage ? (colours.edge ?? mixed(65)) : own.edge
  const background =
    ground.kind === 'none'
      ? ''
      : `background:${ground.kind === 'gradient' ? `linear-gradient(${ground.angle}deg,var(--askbox-background),${ground.to})` : 'var(--askbox-background)'};`
  const shadow = {
    none: '',
    soft: 'box-shadow:0 2px 14px rgb(0 0 0/.14);',
    lifted: 'box-shadow:0 12px 36px rgb(0 0 0/.24);',
  }[look.shadow]
  return [
    [
      '',
      // On lines of their own, for those who change pasted code by hand.
      `\n--askbox-background:${colours.background};\n--askbox-text:${ofPage ? 'currentColor' : colours.text};\n--askbox-button:${colours.button};\n--askbox-button-text:${colours.buttonText};\n--askbox-field:${field};\n--askbox-edge:${edge};\n--askbox-error:${ofPage ? 'currentColor' : errorColour(look)};\n` +
        olderNames(custom.rules) +
        // Reverting takes away what Chromium reads from `lang`, which dates and spelling go by.
        `-webkit-locale:"${language}";` +
        `display:block;max-width:${em(space.width)};break-inside:avoid;writing-mode:horizontal-tb;` +
        `position:relative;isolation:isolate;margin:${em(space.above ?? space.outside)} auto ${em(space.below ?? space.outside)};padding:${em(space.inside)};` +
        (border.width > 0 ? `border:${border.width}px solid ${border.colour};` : '') +
        (border.corner > 0 ? `border-radius:${em(border.corner)};` : '') +
        // Of its own ground, the form knows whether it is dark; without one, the page does.
        (ground.kind === 'none' ? '' : `color-scheme:${isDark(colours.background) ? 'dark' : 'light'} only;`) +
        `print-color-adjust:exact;${background}${shadow}color:var(--askbox-text);-webkit-text-fill-color:currentColor;font-family:${fontStack(type.font)};font-size:max(${type.size}%,${Number((type.size * LEAST_TEXT_PX).toFixed(0)) / 100}px);font-weight:${type.weight};font-style:normal;font-variant:normal;line-height:1.5;text-align:${look.align};` +
        'letter-spacing:normal;word-spacing:normal;text-transform:none;text-indent:0;text-shadow:none;white-space:normal;overflow-wrap:anywhere',
    ],
    // What depends on the room that there is asks the form how wide it is; in a place as wide as what is in it, it is so wide.
    (isJoined(content) || isWithSide(content)) && [
      'form',
      'container:askbox/inline-size;contain-intrinsic-inline-size:20em',
    ],
    ['p,ul,ol,figure,blockquote', 'margin:0 0 .75em'],
    ['p,li,.askbox-hint', `text-wrap:${look.align === 'center' ? 'balance' : 'pretty'}`],
    ['p:last-child,ul:last-child,ol:last-child', 'margin-bottom:0'],
    ['.askbox-introduction,.askbox-points,.askbox-note', 'margin:0 0 1em'],
    ['fieldset', 'min-width:0;margin:0;padding:0;border:0'],
    ['a', 'color:inherit'],
  ].filter((rule): rule is Rule => rule !== false)
}

/** Whether the only question and the button are one thing where there is room for both beside each other. */
function isJoined({ look, fields, illustration }: FormContent): boolean {
  const asked = fields.filter(({ kind }) => kind !== 'hidden')
  const [field] = asked
  return (
    look.arrangement === 'line' &&
    look.button.width === 'text' &&
    look.field.shape === 'box' &&
    // A form that is asked how wide it is holds what is to fill its card.
    (illustration === null || look.picture.place !== 'behind') &&
    asked.length === 1 &&
    ['email', 'name', 'phone', 'website', 'line'].includes(field!.kind)
  )
}

/** Whether a picture stands at the side of words and fields where there is room. */
function isWithSide({ look, illustration }: Pick<FormContent, 'look' | 'illustration'>): boolean {
  return illustration !== null && (look.picture.place === 'start' || look.picture.place === 'end')
}

/** What holds from a width of the form on, in its own `em`. */
function fromWidth(em: number, rules: readonly Rule[], scope: string): string {
  const inner = rules.map(([selector, declarations]) => `${selectorIn(scope, selector)}{${insistent(declarations)}}`)
  return rules.length === 0 ? '' : `@container askbox (min-width:${em}em){${inner.join('')}}`
}

/** A letter of a button's words is about so wide, in `em`; with its padding and the least that an address needs beside it. */
const LETTER_EM = 0.6
const BESIDE_BUTTON_EM = 11

function roomyRules(content: FormContent, scope: string): string[] {
  const { look, words, fields } = content
  const { picture, space, border } = look
  const joined: Rule[] = isJoined(content)
    ? [
        ['.askbox-row', 'flex-wrap:nowrap;gap:0'],
        ['.askbox-field', 'flex:1 1 0'],
        ['.askbox-input', 'border-start-end-radius:0;border-end-end-radius:0'],
        ['.askbox-button', 'flex:none;border-start-start-radius:0;border-end-start-radius:0'],
        // A message goes on below the button, which stays beside the box.
        [
          '.askbox-error',
          `width:max-content;max-width:calc(100% + ${(words.button.length * LETTER_EM + 2).toFixed(1)}em)`,
        ],
        ...besideControls(fields),
      ]
    : []
  const [inside, corner] = [em(space.inside), em(border.corner)]
  const isStart = picture.place === 'start'
  const beside: Rule[] = isWithSide(content)
    ? [
        ['.askbox-sides', `display:flex;align-items:stretch;gap:${inside}`],
        [
          '.askbox-picture',
          `position:relative;flex:1 1 42%;min-height:${content.look.type.size / 6}em;margin:-${inside};margin-inline-${isStart ? 'end' : 'start'}:0;border-radius:${isStart ? `${corner} 0 0 ${corner}` : `0 ${corner} ${corner} 0`};order:${isStart ? 0 : 1}`,
        ],
        ['.askbox-picture img', 'position:absolute;inset:0;height:100%;max-height:none;aspect-ratio:auto'],
        ['.askbox-body', `flex:1 1 58%;align-self:center;padding-block:${em(space.inside / 4)}`],
      ]
    : []
  return [
    fromWidth(Math.ceil(BESIDE_BUTTON_EM + words.button.length * LETTER_EM), joined, scope),
    fromWidth(SIDE_BY_SIDE_EM, beside, scope),
  ].filter(Boolean)
}

/** From here on a picture has a column of its own, and words and fields still one that is wide enough. */
const SIDE_BY_SIDE_EM = 34

function wordRules(content: FormContent): Rule[] {
  const { words, look, illustration, video } = content
  const { picture, space, border } = look
  const rules: (Rule | false)[] = [
    words.heading !== '' && [
      '.askbox-heading',
      `margin:0 0 .35em;font-size:${look.type.headingSize / 100}em;font-weight:${look.type.headingWeight};line-height:1.2;text-wrap:balance;white-space:pre-line${ownHeading(look)}`,
    ],
    (words.points.length > 0 ||
      [words.introduction, words.note, words.small, words.after, words.quote]
        .flat()
        .some(({ kind }) => kind !== 'paragraph')) && ['ul,ol', 'padding-inline-start:1.25em;text-align:start'],
    words.points.length > 0 && ['.askbox-points ul', 'list-style:none;padding:0'],
    words.points.length > 0 && [
      '.askbox-points ul li',
      'position:relative;margin:0 0 .35em;padding-inline-start:1.75em',
    ],
    words.points.length > 0 && [
      '.askbox-points ul li::before',
      `content:"";position:absolute;inset-block-start:.28em;inset-inline-start:.35em;width:.4em;height:.8em;border:solid ${followsPage(look) ? 'currentColor' : 'var(--askbox-button)'};border-width:0 .17em .17em 0;transform:rotate(45deg)`,
    ],
    words.small.length > 0 && ['.askbox-small', 'margin:.75em 0 0;font-size:.85em'],
    words.after.length > 0 && ['.askbox-after', 'margin:1em 0 0'],
    !saysNothing(words.quote) && [
      '.askbox-quote',
      'margin:1.25em 0 0;padding-inline-start:1em;border-inline-start:3px solid var(--askbox-button)',
    ],
    !saysNothing(words.quote) && ['blockquote', 'margin:0 0 .25em;font-style:italic'],
    !saysNothing(words.quote) && ['figcaption', 'font-size:.85em'],
    video !== null && ['.askbox-video', 'margin:0 0 1em'],
    video !== null && [
      'iframe',
      `display:block;width:100%;height:auto;aspect-ratio:${video.width}/${video.height};border:0;background:#0003`,
    ],
  ]
  if (look.words === 'beside')
    rules.push(
      ['.askbox-beside', `display:flex;flex-wrap:wrap;align-items:center;gap:${em(space.gap)} ${em(space.inside)}`],
      // Of spare room the fields get more than words that are short.
      ['.askbox-told', 'flex:1 1 15em;min-width:0'],
      ['.askbox-asked', 'flex:2 1 20em;min-width:0'],
      ['.askbox-told>:last-child', 'margin-bottom:0'],
    )
  if (illustration !== null) {
    const { picture: shown } = illustration
    // What is reverted takes the ratio away that browsers read from width and height.
    rules.push(['img', `display:block;width:100%;height:auto;aspect-ratio:${shown.width}/${shown.height}`])
    if (picture.place === 'above') {
      rules.push([
        '.askbox-picture',
        `display:block;margin:${em(-space.inside)} ${em(-space.inside)} ${em(space.inside)};overflow:hidden${border.corner > 0 ? `;border-radius:${em(border.corner)} ${em(border.corner)} 0 0` : ''}`,
      ])
    } else if (picture.place === 'behind') {
      rules.push(['.askbox-behind', `position:absolute;inset:0;z-index:-1;overflow:hidden;border-radius:inherit`])
      rules.push(['.askbox-behind img', `height:100%;object-fit:cover;opacity:${picture.strength / 100}`])
    } else {
      // Above, as wide as the form; a column of its own where there is room, see `roomyRules`.
      rules.push(['.askbox-sides', `display:block`])
      rules.push([
        '.askbox-picture',
        `display:block;margin:-${em(space.inside)} -${em(space.inside)} ${em(space.inside)};overflow:hidden${border.corner > 0 ? `;border-radius:${em(border.corner)} ${em(border.corner)} 0 0` : ''}`,
      ])
      rules.push(['.askbox-picture img', 'max-height:22em;object-fit:cover'])
      rules.push(['.askbox-body', 'min-width:0'])
    }
  }
  return rules.filter((rule) => rule !== false)
}

/** What the heading has apart from the other texts. */
export function ownHeading({ colours, type }: Look): string {
  return `${type.headingFamily ? `;font-family:${type.headingFamily}` : ''}${colours.heading ? `;color:${colours.heading}` : ''}${type.headingAlign ? `;text-align:${type.headingAlign}` : ''}`
}

/** Sizes and colours that single texts have of their own, where the content has those texts. */
export function ownTextRules({ words, fields, look }: FormContent): Rule[] {
  const isThere = (key: TextKey) => (key === 'label' ? fields.length > 0 : words[key].length > 0)
  return textKeys.filter(isThere).flatMap((key): Rule[] => {
    const size = look.type.sizes?.[key]
    const colour = look.colours[key]
    const own = [size !== undefined && `font-size:${size / 100}em`, colour !== undefined && `color:${colour}`]
    return own.some(Boolean) ? [[`.askbox-${key}`, own.filter(Boolean).join(';')]] : []
  })
}

/** Height of a label's line with the space below it: 0.9 em of text, 1.5 times as high, and 0.25 em of that. */
const LABEL_EM = 0.9 * (1.5 + 0.25)

/** With a message below a field, the button stands level with the boxes, not with what is below them. */
function besideControls(fields: readonly Field[]): Rule[] {
  return fields.some(({ labelShown }) => labelShown)
    ? [['.askbox-row:has(.askbox-error) .askbox-button', `margin-top:${LABEL_EM}em`]]
    : []
}

const controlSizes = { small: [2.25, 0.3, 0.6], medium: [2.75, 0.5, 0.75], large: [3.25, 0.65, 1] } as const

function fieldRules(content: FormContent): Rule[] {
  const { look, fields } = content
  const { field, space, arrangement, align } = look
  const [height, above, beside] = controlSizes[field.size]
  const kinds = new Set(fields.map(({ kind }) => kind))
  const has = (...some: Field['kind'][]) => some.some((kind) => kinds.has(kind))
  const hasBoxes =
    has('choose-several', 'topics', 'consent') ||
    fields.some((one) => one.kind === 'choose-one' && one.shownAs === 'buttons')
  const hasParts = has('address', 'birthday')
  const isLine = arrangement === 'line'
  const box =
    field.shape === 'box'
      ? `border:1px solid var(--askbox-edge);border-radius:${em(field.corner)};background:var(--askbox-field)`
      : 'border:0;border-bottom:2px solid var(--askbox-edge);border-radius:0;background:transparent'
  const rules: (Rule | false)[] = [
    [
      '.askbox-row',
      `display:flex;flex-wrap:wrap;gap:${em(space.gap)};align-items:flex-end${align === 'start' ? '' : `;justify-content:${align}`}`,
    ],
    ['.askbox-field', `flex:1 1 ${isLine ? '14em' : '100%'};min-width:0;text-align:start`],
    fields.some(({ width }) => width === 'half') && [
      `.askbox-half`,
      `flex:1 1 calc(50% - ${em(space.gap)});min-width:min(100%,9em)`,
    ],
    // Themes that hide labels, and name their fields within, would hide the fields with ours.
    ['.askbox-single>label', 'display:contents!important'],
    // Never as heavy as the heading that it stands under.
    [
      '.askbox-label',
      `display:block;margin:0 0 .25em;padding:0;font-size:.9em;font-weight:${Number(look.type.headingWeight) > 600 ? 600 : 500}`,
    ],
    fields.some(({ required, kind }) => !required && kind !== 'hidden' && kind !== 'consent') && [
      '.askbox-optional',
      'font-weight:400',
    ],
    fields.some(({ labelShown }) => !labelShown) && [
      '.askbox-heard',
      'position:absolute;width:1px;height:1px;overflow:hidden;clip-path:inset(50%);white-space:nowrap',
    ],
    ...(fields.some(({ hint }) => hint !== '')
      ? ([
          ['.askbox-hint', 'display:block;margin:0 0 .35em;font-size:.85em'],
          // Between label and control, after both of which it stands in the markup.
          ['.askbox-single', 'display:flex;flex-direction:column'],
          ['.askbox-single>label>span', 'order:-2'],
          ['.askbox-single>.askbox-hint', 'order:-1'],
        ] satisfies Rule[])
      : []),
    [
      '.askbox-input',
      `display:block;width:100%;min-height:${height}em;margin:0;padding:${above}em ${field.shape === 'line' ? 0.15 : beside}em;${box};color:${look.colours.fieldText ?? 'var(--askbox-text)'};font:inherit;text-overflow:ellipsis`,
    ],
    // Lists of choices open on the browser's own white, whatever the page's colours.
    followsPage(look) && kinds.has('choose-one') && ['option', 'background:#fff;color:#222'],
    ['::placeholder', `color:${look.colours.fieldText ?? 'var(--askbox-text)'};opacity:.72`],
    hasBoxes && ['.askbox-option', 'display:flex!important;gap:.6em;align-items:flex-start;padding:.2em 0'],
    hasBoxes && [
      '.askbox-box',
      'flex:none;width:max(1.5em,24px);height:max(1.5em,24px);margin:0;accent-color:var(--askbox-button)',
    ],
    hasParts && ['.askbox-parts', `display:flex;flex-wrap:wrap;gap:${em(space.gap)}`],
    hasParts && ['.askbox-part', 'display:block!important;flex:1 1 7em;min-width:0'],
    kinds.has('address') && ['.askbox-part-street,.askbox-part-country', 'flex-basis:100%'],
    hasParts && ['.askbox-part-label', 'display:block;margin:0 0 .15em;font-size:.85em'],
    fields.some(({ step }) => step !== fields[0]?.step) && ['.askbox-step', `margin:0 0 ${em(space.gap * 1.5)}`],
    fields.some(({ step }) => step !== fields[0]?.step) && [
      '.askbox-step-name',
      'margin:0 0 .5em;padding:0;font-size:.85em;font-weight:600',
    ],
    // With a message below one of them, fields stand level by their labels, and the button beside the controls.
    ['.askbox-row:has(.askbox-error)', 'align-items:flex-start'],
    ...(isLine && !isJoined(content) ? besideControls(fields) : []),
    // Sites that take the outline from everything do so with this weight.
    [':focus-visible', 'outline:3px solid var(--askbox-text)!important;outline-offset:2px!important'],
    [
      '.askbox-error',
      'position:relative;display:block;margin:.35em 0 0;padding-inline-start:1.65em;color:var(--askbox-error);font-size:.9em;font-weight:500;line-height:1.35',
    ],
    // A sign, so that it is not told by its colour alone.
    [
      '.askbox-error::before',
      'content:"!";position:absolute;inset-block-start:.05em;inset-inline-start:0;width:1.25em;border:.12em solid;border-radius:50%;font-size:.9em;font-weight:700;line-height:1.2em;text-align:center',
    ],
    ['[aria-invalid]', 'border-color:var(--askbox-error);box-shadow:0 0 0 1px var(--askbox-error)'],
  ]
  return rules.filter((rule) => rule !== false)
}

function buttonRules(content: FormContent): Rule[] {
  const { look } = content
  const { button, arrangement, field, colours } = look
  const isWide = button.width === 'row' || isJoined(content)
  const [height, above] = controlSizes[button.size]
  const inLine = arrangement === 'line' && button.width === 'text'
  const least = inLine ? Math.max(height, controlSizes[field.size][0]) : height
  const fill =
    button.fill === 'full'
      ? 'border:1px solid transparent;background:var(--askbox-button);color:var(--askbox-button-text)'
      : followsPage(look)
        ? 'border:2px solid currentColor;background:transparent;color:inherit'
        : 'border:2px solid var(--askbox-button);background:transparent;color:var(--askbox-button)'
  return [
    [
      '.askbox-button',
      `flex:${isWide ? '1 1 100%' : '0 1 auto'};min-height:${least}em;max-width:100%;margin:0;padding:${above}em 1.25em;${fill};border-radius:${em(button.corner)};font:inherit;font-weight:${button.weight ?? '600'};white-space:pre-line;cursor:pointer`,
    ],
    [
      '.askbox-button:hover',
      colours.buttonHover === undefined
        ? 'filter:brightness(1.08)'
        : button.fill === 'full'
          ? `background:${colours.buttonHover}`
          : `border-color:${colours.buttonHover};color:${colours.buttonHover}`,
    ],
  ]
}

/** Raspberry, or as much of it as can be read on the form's ground; else the colour of its words. */
function errorColour({ colours, ground }: Look): string {
  const grounds = ground.kind === 'gradient' ? [colours.background, ground.to] : [colours.background]
  return mended('#b3203f', [{ grounds, wanted: TEXT_CONTRAST }]) ?? colours.text
}

/** For the answer that a script puts in the form's place. */
function resultRules(look: Look): Rule[] {
  const { result } = look
  const colour = followsPage(look) ? 'currentColor' : 'var(--askbox-button)'
  const around = {
    plain: '',
    framed: `;padding:1em;border:2px solid ${colour};border-radius:.5em`,
    barred: `;padding-inline-start:1em;border-inline-start:6px solid ${colour}`,
  }[result]
  const mark = result === 'framed' ? '1em' : result === 'barred' ? '1em' : '0em'
  return [
    // The words beside a tick in a ring.
    [
      '.askbox-result',
      `position:relative;min-height:2.6em${around};padding-inline-start:calc(3.5em + ${mark});text-align:start`,
    ],
    [
      '.askbox-result::before',
      `content:"";position:absolute;inset-inline-start:${mark};width:2.5em;height:2.5em;border:2px solid ${colour};border-radius:50%`,
    ],
    [
      '.askbox-result::after',
      `content:"";position:absolute;inset-inline-start:calc(${mark} + .98em);margin-block-start:.56em;inset-block-start:${result === 'framed' ? '1em' : '0'};width:.55em;height:1.1em;border:solid ${colour};border-width:0 .2em .2em 0;transform:rotate(45deg)`,
    ],
    ['.askbox-result:focus-visible', 'outline-offset:6px!important'],
  ]
}

function phoneRules({ illustration }: FormContent, scope: string): string[] {
  if (illustration === null) return []
  const { onPhones, phonePicture } = illustration
  const rule = !onPhones
    ? `${selectorIn(scope, '.askbox-picture,.askbox-behind')}{display:none}`
    : phonePicture === null
      ? null
      : `${selectorIn(scope, 'img')}{aspect-ratio:${phonePicture.width}/${phonePicture.height}}`
  return rule === null ? [] : [`@media(max-width:${PHONE_WIDTH}px){${rule}}`]
}

/**
 * A field with a condition is out of sight until it holds; the browser's own selectors see to it, so it needs
 * no script. Where `:has()` is not known, it is simply asked of everybody.
 */
function conditionRules(fields: readonly Field[], scope: string): string[] {
  const rules = fields.flatMap((field) =>
    conditionsOf(field, fields).map(
      (condition) => `${scope}:not(:has(${condition})) .askbox-field-${field.key}{display:none}`,
    ),
  )
  return rules.length === 0 ? [] : [`@supports selector(:has(a)){${rules.join('')}}`]
}

/** Its own condition and those of what it depends on, as selectors of the answers that fulfil them. */
function conditionsOf(field: Field, fields: readonly Field[], seen: readonly string[] = []): string[] {
  const rule = field.showWhen
  const other = rule === null ? undefined : fields.find(({ key }) => key === rule.field)
  if (rule === null || other === undefined || seen.includes(other.key)) return []
  const answered = rule.is.map((answer) => {
    if (other.kind === 'choose-one')
      return other.shownAs === 'menu'
        ? `[name="${other.key}"] [value="${answer}"]:checked`
        : `[name="${other.key}"][value="${answer}"]:checked`
    return other.kind === 'consent' ? `[name="${other.key}"]:checked` : `[name="${other.key}--${answer}"]:checked`
  })
  return [answered.join(), ...conditionsOf(other, fields, [...seen, field.key])]
}

function entranceRules({ entrance }: Look, scope: string): string[] {
  if (entrance === 'none') return []
  return [
    `@media(prefers-reduced-motion:no-preference){${scope}{animation:askbox-${entrance} .5s ease-out both}}`,
    `@keyframes askbox-${entrance}{from{opacity:0${entrance === 'rise' ? ';transform:translateY(1em)' : ''}}}`,
  ]
}

/** The owner's own rules, each selector within the form; `form` or `:scope` is the form itself. */
function customRules(rules: readonly CustomRule[], scope: string): string[] {
  const kept = rules.flatMap((rule) => withinForm(rule) ?? [])
  // Boxes that leave their place end at the form's edge, but for the width of a focus outline.
  const holding = kept.some(movesBoxes) ? [`${scope}{position:relative;overflow:clip;overflow-clip-margin:6px}`] : []
  return [
    ...holding,
    ...kept.map(({ selectors, ...rest }) =>
      ruleText({
        ...rest,
        selectors: selectors.map((selector) =>
          isOfForm(selector) ? selector.replace(FORM, scope) : `${scope} ${selector}`,
        ),
      }),
    ),
  ]
}

/** The same for what stands outside the form on a page that is all the form's own. */
export function customRulesAround(rules: readonly CustomRule[], scope: string): string[] {
  return rules
    .flatMap((rule) => withinForm(rule) ?? [])
    .flatMap(({ selectors, ...rest }) => {
      const around = selectors.filter((selector) => !isOfForm(selector)).map((selector) => `${scope} ${selector}`)
      return around.length === 0 ? [] : [ruleText({ ...rest, selectors: around })]
    })
}

const FORM = /^\s*(form|:scope)(?![\w-])/

function isOfForm(selector: string): boolean {
  return FORM.test(selector)
}

/** What the owner says has the weight of what it takes the place of. */
function declarationText({ property, value }: CustomRule['declarations'][number]): string {
  const hasWeight = property.startsWith('outline') || INSISTENT.test(property)
  return `${property}:${value}${hasWeight && !value.includes('!') ? '!important' : ''}`
}

function ruleText({ media, selectors, declarations }: CustomRule): string {
  const rule = `${selectors.join()}{${declarations.map(declarationText).join(';')}}`
  if (media === null) return rule
  const bounds = [
    media.from !== null && `(min-width:${media.from}px)`,
    media.upTo !== null && `(max-width:${media.upTo}px)`,
  ].filter(Boolean)
  return bounds.length === 0 ? rule : `@media ${bounds.join(' and ')}{${rule}}`
}

import type { Field, FormContent } from '#core/form'
import type { SpotId } from '#core/ids'
import {
  type CustomRule,
  fieldColours,
  followsPage,
  fontStack,
  isDark,
  type Look,
  movesBoxes,
  SHIPPED_FONT_PATH,
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
  if (look.dress === 'site') return siteDress(content, scope)
  const rules = [
    ...formRules(content),
    ...wordRules(content),
    ...fieldRules(content),
    ...buttonRules(look),
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
    ...phoneRules(content, scope),
    ...conditionRules(content.fields, scope),
    ...entranceRules(look, scope),
    ...customRules(look.custom.rules, scope),
  ]
    .filter(Boolean)
    .join('\n')
}

/** For a form that wears the site's styles: only what it needs to work, and the owner's own rules. */
function siteDress({ fields, look }: FormContent, scope: string): string {
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

function formRules({ look, language }: FormContent): Rule[] {
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
      `\n--askbox-background:${colours.background};\n--askbox-text:${ofPage ? 'currentColor' : colours.text};\n--askbox-button:${colours.button};\n--askbox-button-text:${colours.buttonText};\n--askbox-field:${field};\n--askbox-edge:${edge};\n` +
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
    ['p,ul,ol,figure,blockquote', 'margin:0 0 .75em'],
    ['p:last-child,ul:last-child,ol:last-child', 'margin-bottom:0'],
    ['.askbox-introduction,.askbox-points,.askbox-note', 'margin:0 0 1em'],
    ['fieldset', 'min-width:0;margin:0;padding:0;border:0'],
    ['a', 'color:inherit'],
  ]
}

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
      ['.askbox-told,.askbox-asked', 'flex:1 1 17em;min-width:0'],
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
      rules.push(['.askbox-sides', `display:flex;flex-wrap:wrap;align-items:center;gap:${em(space.inside)}`])
      rules.push([
        '.askbox-picture',
        `flex:1 1 13em;align-self:flex-start;min-width:0${picture.place === 'end' ? ';order:1' : ''}`,
      ])
      rules.push([
        '.askbox-picture img',
        `max-height:32em;object-fit:cover;border-radius:${em(Math.min(border.corner, 12))}`,
      ])
      rules.push(['.askbox-body', 'flex:2 1 17em;min-width:0'])
    }
  }
  return rules.filter((rule) => rule !== false)
}

/** What the heading has apart from the other texts. */
export function ownHeading({ colours, type }: Look): string {
  return `${colours.heading ? `;color:${colours.heading}` : ''}${type.headingAlign ? `;text-align:${type.headingAlign}` : ''}`
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
    ['.askbox-label', 'display:block;margin:0 0 .25em;padding:0;font-size:.9em;font-weight:600'],
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
      `display:block;width:100%;min-height:${height}em;margin:0;padding:${above}em ${field.shape === 'line' ? 0.15 : beside}em;${box};color:${look.colours.fieldText ?? 'var(--askbox-text)'};font:inherit`,
    ],
    // Lists of choices open on the browser's own white, whatever the page's colours.
    followsPage(look) && kinds.has('choose-one') && ['option', 'background:#fff;color:#222'],
    ['::placeholder', `color:${look.colours.fieldText ?? 'var(--askbox-text)'};opacity:.72`],
    hasBoxes && ['.askbox-option', 'display:flex!important;gap:.6em;align-items:flex-start;padding:.2em 0'],
    hasBoxes && ['.askbox-box', 'flex:none;width:1.5em;height:1.5em;margin:0;accent-color:var(--askbox-button)'],
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
    isLine &&
      fields.some(({ labelShown }) => labelShown) && [
        '.askbox-row:has(.askbox-error) .askbox-button',
        `margin-top:${LABEL_EM}em`,
      ],
    // Sites that take the outline from everything do so with this weight.
    [':focus-visible', 'outline:3px solid var(--askbox-text)!important;outline-offset:2px!important'],
    ['.askbox-error', 'display:block;margin:.25em 0 0;font-size:.9em;font-weight:600'],
    ['[aria-invalid]', 'border:2px solid var(--askbox-text)'],
  ]
  return rules.filter((rule) => rule !== false)
}

function buttonRules(look: Look): Rule[] {
  const { button, arrangement, field, colours } = look
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
      `flex:${button.width === 'row' ? '1 1 100%' : '0 1 auto'};min-height:${least}em;max-width:100%;margin:0;padding:${above}em 1.25em;${fill};border-radius:${em(button.corner)};font:inherit;font-weight:${button.weight ?? '600'};white-space:pre-line;cursor:pointer`,
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

/** For the answer that a script puts in the form's place. */
function resultRules({ result }: Look): Rule[] {
  if (result === 'plain') return []
  return [
    [
      '.askbox-result',
      result === 'framed'
        ? 'padding:1em;border:2px solid var(--askbox-button);border-radius:.5em'
        : 'padding-inline-start:1em;border-inline-start:6px solid var(--askbox-button)',
    ],
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

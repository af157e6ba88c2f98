import type { Field, FormContent } from '#core/form'
import type { SpotId } from '#core/ids'
import { type CustomRule, fieldColours, followsPage, fontStack, isDark, type Look } from '#core/look'
import { css } from './css'
import { fontFace } from './font-face'
import type { PlacedForm } from './placed'
import { customRules } from './custom-rules'
import { fieldRules, isJoined, buttonRules, errorColour } from './field-rules'
import { roomyRules, isWithSide } from './roomy-rules'
import { HEARD_ONLY, type Rule, insistent, selectorIn, em } from './rule'
import { wordRules, ownTextRules, resultRules } from './word-rules'

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
    look.type.font === 'shipped' && fontFace(receiver, 'swap'),
    `${scope},${scope} *{all:revert;box-sizing:border-box}`,
    `${scope}::before,${scope}::after,${scope} *::before,${scope} *::after{content:none}`,
    `${scope}::first-letter,${scope} *::first-letter{all:revert}`,
    // A site's `*` rules with higher specificity neither show a `<style>` as text nor reveal hidden elements.
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
    ['', 'max-width:32em;margin:0 0 1.5em'],
    ['.askbox-label', 'display:block;margin:0 0 .25em;font-weight:600'],
    [
      '.askbox-input',
      css`
        display: block;
        box-sizing: border-box;
        width: 100%;
        padding: 0.55em 0.7em;
        border: 1px solid color-mix(in srgb, currentColor 55%, transparent);
        border-radius: 4px;
        font: inherit;
        font-size: max(1em, 16px);
      `,
    ],
    [
      '.askbox-button',
      css`
        padding: 0.55em 1.2em;
        border: 1px solid currentColor;
        border-radius: 4px;
        font: inherit;
        font-weight: 600;
        cursor: pointer;
      `,
    ],
    ['.askbox-small', 'margin:.75em 0 0;font-size:.875em'],
  ]
  const needed: Rule[] = [
    ['style,[hidden]', 'display:none!important'],
    ['.askbox-heard', HEARD_ONLY],
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

function formRules(content: FormContent): Rule[] {
  const { look, language } = content
  const { colours, space, border, ground, type, custom } = look
  const own = fieldColours(look)
  const ofPage = followsPage(look)
  // On a page that may be light or dark, everything is made of the colour that its words have.
  const mixed = (share: number) => `color-mix(in srgb,currentColor ${share}%,transparent)`
  // See-through: a little grey looks like a field that is switched off.
  const field = ofPage ? (colours.field ?? 'transparent') : own.field
  const edge = ofPage ? (colours.edge ?? mixed(65)) : own.edge
  const ownGround =
    ground.kind === 'gradient'
      ? `linear-gradient(${ground.angle}deg,var(--askbox-background),${ground.to})`
      : 'var(--askbox-background)'
  const hasGround = ground.kind !== 'none'
  const shadow = { none: '', soft: '0 2px 14px rgb(0 0 0/.14)', lifted: '0 12px 36px rgb(0 0 0/.24)' }[look.shadow]
  return [
    [
      '',
      // On lines of their own, for those who change pasted code by hand.
      `\n--askbox-background:${colours.background};\n--askbox-text:${ofPage ? 'currentColor' : colours.text};\n--askbox-button:${colours.button};\n--askbox-button-text:${colours.buttonText};\n--askbox-field:${field};\n--askbox-edge:${edge};\n--askbox-error:${ofPage ? 'currentColor' : errorColour(look)};\n` +
        olderNames(custom.rules) +
        css`
          /* Reverting takes away what Chromium reads from "lang", which dates and spelling go by. */
          -webkit-locale: '${language}';
          display: block;
          max-width: ${em(space.width)};
          break-inside: avoid;
          writing-mode: horizontal-tb;
          position: relative;
          isolation: isolate;
          margin: ${em(space.above ?? space.outside)} auto ${em(space.below ?? space.outside)};
          padding: ${em(space.inside)};
          ${border.width > 0 && `border:${border.width}px solid ${border.colour}`};
          ${border.corner > 0 && `border-radius:${em(border.corner)}`};
          /* Of its own ground, the form knows whether it is dark; without one, the page does. */
          ${hasGround && `color-scheme:${isDark(colours.background) ? 'dark' : 'light'} only`};
          print-color-adjust: exact;
          ${hasGround && `background:${ownGround}`};
          ${shadow !== '' && `box-shadow:${shadow}`};
          color: var(--askbox-text);
          -webkit-text-fill-color: currentColor;
          font-family: ${fontStack(type.font)};
          font-size: max(${type.size}%, ${Number((type.size * LEAST_TEXT_PX).toFixed(0)) / 100}px);
          font-weight: ${type.weight};
          font-style: normal;
          font-variant: normal;
          line-height: 1.5;
          text-align: ${look.align};
          letter-spacing: normal;
          word-spacing: normal;
          text-transform: none;
          text-indent: 0;
          text-shadow: none;
          white-space: normal;
          overflow-wrap: anywhere;
        `,
    ],
    // Container queries: the form is the container, and in a shrink-to-fit place it has a width of its own.
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

/** A field's condition and those of the fields that it depends on, as selectors of the answers that fulfil them. */
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

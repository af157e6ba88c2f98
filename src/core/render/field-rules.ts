import { css } from './css'
import { type Field, type FormContent, isBox } from '#core/form'
import { contrast, followsPage, type Look, mended, mix, TEXT_CONTRAST } from '#core/look'
import { HEARD_ONLY, type Rule, em } from './rule'

/** Fields with their labels, hints, choices and errors, and the row that they stand in with the button. */
export function fieldRules(content: FormContent): Rule[] {
  const { look, fields } = content
  const { field, space, arrangement, align } = look
  const [height, above, beside] = controlSizes[field.size]
  const kinds = new Set(fields.map(({ kind }) => kind))
  const has = (...some: Field['kind'][]) => some.some((kind) => kinds.has(kind))
  const hasBoxes =
    has('choose-several', 'topics', 'consent', 'join-box') ||
    fields.some((one) => one.kind === 'choose-one' && one.shownAs === 'buttons')
  const hasParts = has('address', 'birthday')
  const isLine = arrangement === 'line'
  const asked = fields.filter((one) => one.kind !== 'hidden' && !isBox(one)).length
  const box =
    field.shape === 'box'
      ? css`
          border: 1px solid var(--askbox-edge);
          border-radius: ${em(field.corner)};
          background: var(--askbox-field);
        `
      : css`
          border: 0;
          border-bottom: 2px solid var(--askbox-edge);
          border-radius: 0;
          background: transparent;
        `
  const rules: (Rule | false)[] = [
    [
      '.askbox-row',
      css`
        display: flex;
        flex-wrap: wrap;
        gap: ${em(space.gap)};
        align-items: flex-end;
        ${align !== 'start' && `justify-content:${align}`};
      `,
    ],
    // Three and a button still stand in one row where a footer has room for it.
    ['.askbox-field', `flex:1 1 ${isLine ? (asked > 2 ? '9em' : '14em') : '100%'};min-width:0;text-align:start`],
    // Choices and long sentences have a row of their own, so that the button never floats beside them.
    isLine && (hasBoxes || hasParts) && ['.askbox-field:not(.askbox-single)', 'flex-basis:100%'],
    fields.some(({ width }) => width === 'half') && [
      `.askbox-half`,
      `flex:1 1 calc(50% - ${em(space.gap)});min-width:min(100%,9em)`,
    ],
    // Themes that hide labels, and name their fields within, would hide the fields with ours.
    ['.askbox-single>label', 'display:contents!important'],
    // Never as heavy as the heading that it stands under.
    [
      '.askbox-label',
      css`
        display: block;
        margin: 0 0 0.25em;
        padding: 0;
        font-size: 0.9em;
        font-weight: ${Number(look.type.headingWeight) > 600 ? 600 : 500};
      `,
    ],
    fields.some((one) => !one.required && one.kind !== 'hidden' && !isBox(one)) && [
      '.askbox-optional',
      'font-weight:400',
    ],
    fields.some(({ labelShown }) => !labelShown) && ['.askbox-heard', HEARD_ONLY],
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
      css`
        display: block;
        width: 100%;
        min-height: ${height}em;
        margin: 0;
        padding: ${above}em ${field.shape === 'line' ? 0.15 : beside}em;
        ${box};
        color: ${look.colours.fieldText ?? 'var(--askbox-text)'};
        font: inherit;
        /* Below this, phones enlarge the page when somebody types. */
        font-size: max(1em, ${CONTROL_TEXT_PX}px);
        text-overflow: ellipsis;
      `,
    ],
    // Lists of choices open on the browser's own white, whatever the page's colours.
    followsPage(look) && kinds.has('choose-one') && ['option', 'background:#fff;color:#222'],
    kinds.has('message') && ['.askbox-left', 'display:block;margin:.25em 0 0;font-size:.85em'],
    ['::placeholder', `color:${look.colours.fieldText ?? 'var(--askbox-text)'};opacity:.72`],
    hasBoxes && [
      '.askbox-option',
      css`
        display: flex !important;
        gap: 0.6em;
        align-items: flex-start;
        padding: 0.2em 0;
      `,
    ],
    hasBoxes && [
      '.askbox-box',
      css`
        flex: none;
        width: max(1.5em, 24px);
        height: max(1.5em, 24px);
        margin: 0;
        accent-color: var(--askbox-button);
      `,
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
    ...(!isLine && fields.some(({ width }) => width === 'half')
      ? levelHalves(em(space.gap), look.button.width === 'row')
      : []),
    ...(isLine && !isJoined(content) ? besideControls(fields) : []),
    // Sites that take the outline from everything do so with this weight.
    [
      ':focus-visible',
      css`
        outline: 3px solid var(--askbox-text) !important;
        outline-offset: 2px !important;
      `,
    ],
    [
      '.askbox-error',
      css`
        position: relative;
        display: block;
        margin: 0.35em 0 0;
        padding-inline-start: 1.65em;
        color: var(--askbox-error);
        font-size: 0.9em;
        font-weight: 500;
        line-height: 1.35;
      `,
    ],
    // A sign, so that it is not told by its colour alone.
    [
      '.askbox-error::before',
      css`
        content: '!';
        position: absolute;
        inset-block-start: 0.05em;
        inset-inline-start: 0;
        width: 1.25em;
        border: 0.12em solid;
        border-radius: 50%;
        font-size: 0.9em;
        font-weight: 700;
        line-height: 1.2em;
        text-align: center;
      `,
    ],
    [
      '[aria-invalid]',
      css`
        border-color: var(--askbox-error);
        box-shadow: 0 0 0 1px var(--askbox-error);
      `,
    ],
  ]
  return rules.filter((rule) => rule !== false)
}

/** Whether the only field and the button are joined into one control where both fit in a row. */
export function isJoined({ look, fields, illustration }: FormContent): boolean {
  return (
    look.arrangement === 'line' &&
    look.button.width === 'text' &&
    look.field.shape === 'box' &&
    // A form that is asked how wide it is holds what is to fill its card.
    (illustration === null || look.picture.place !== 'behind') &&
    // Every form asks for an address, so the only question is that.
    fields.filter(({ kind }) => kind !== 'hidden').length === 1
  )
}

/** Height of a label's line with the space below it: 0.9 em of text, 1.5 times as high, and 0.25 em of that. */
const LABEL_EM = 0.9 * (1.5 + 0.25)

/** With a message below a field, the button stands level with the boxes, not with what is below them. */
export function besideControls(fields: readonly Field[]): Rule[] {
  return fields.some(({ labelShown }) => labelShown)
    ? [['.askbox-row:has(.askbox-error) .askbox-button', `margin-top:${LABEL_EM}em`]]
    : []
}

/**
 * Halves beside each other stay level by their controls when a message shows below one of them, however long their labels
 * and hints are. CSS Grid Layout Module Level 2, section 9 (subgrid); browsers without it keep them level by their labels.
 */
function levelHalves(gap: string, isWide: boolean): Rule[] {
  const row = '.askbox-row:has(.askbox-half .askbox-error)'
  const half = `${row}>.askbox-half.askbox-single`
  return [
    [
      row,
      css`
        display: grid;
        grid-template-columns: repeat(auto-fit, minmax(max(9em, 50% - ${gap}), 1fr));
        gap: 0 ${gap};
      `,
    ],
    [`${row}>*`, `grid-column:1/-1;margin-bottom:${gap}`],
    ...(isWide ? [] : [[`${row}>.askbox-button`, 'justify-self:start'] satisfies Rule]),
    [half, 'display:grid;grid-column:auto;grid-row:span 4;grid-template-rows:subgrid'],
    [`${half}>label>span`, 'grid-row:1;align-self:end'],
    [`${half}:not(:has(.askbox-hint))>label>span`, 'grid-row:1/3'],
    [`${half}>.askbox-hint`, 'grid-row:2;align-self:end'],
    [`${half}>label>:last-child`, 'grid-row:3'],
    [`${half}>.askbox-error`, 'grid-row:4'],
  ]
}

/** Smaller text in a field makes phones zoom in; common practice. */
const CONTROL_TEXT_PX = 16
const controlSizes = { small: [2.25, 0.3, 0.6], medium: [2.75, 0.5, 0.75], large: [3.25, 0.65, 1] } as const

/** The button, at rest and under the pointer. */
export function buttonRules(content: FormContent): Rule[] {
  const { look } = content
  const { button, arrangement, field, colours } = look
  const isWide = button.width === 'row' || isJoined(content)
  const [height, above] = controlSizes[button.size]
  const inLine = arrangement === 'line' && button.width === 'text'
  // As high as the field beside it, whose text is never smaller than 16 pixels.
  const beside = controlSizes[field.size][0]
  const least = inLine ? `max(${Math.max(height, beside)}em, ${beside * CONTROL_TEXT_PX}px)` : `${height}em`
  const fill =
    button.fill === 'full'
      ? css`
          border: 1px solid transparent;
          background: var(--askbox-button);
          color: var(--askbox-button-text);
        `
      : followsPage(look)
        ? css`
            border: 2px solid currentColor;
            background: transparent;
            color: inherit;
          `
        : css`
            border: 2px solid var(--askbox-button);
            background: transparent;
            color: var(--askbox-button);
          `
  return [
    [
      '.askbox-button',
      css`
        flex: ${isWide ? '1 1 100%' : '0 1 auto'};
        min-height: ${least};
        max-width: 100%;
        margin: 0;
        padding: ${above}em 1.25em;
        ${fill};
        border-radius: ${em(button.corner)};
        font: inherit;
        font-weight: ${button.weight ?? '600'};
        white-space: pre-line;
        cursor: pointer;
      `,
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

/** Shares of the button's colour in the ground of a page of its own, as much as leaves its words readable. */
const TINTS = [0.07, 0.05, 0.03]

/** The ground that words and form stand on where they are a page of their own, without a picture. */
export function landingGround({ background, text, button }: Look['colours']): string {
  const tints = TINTS.map((share) => mix(button, background, share))
  return tints.find((ground) => contrast(text, ground) >= TEXT_CONTRAST) ?? background
}

/** Raspberry, or as much of it as can be read on the form's ground; else the colour of its words. */
export function errorColour({ colours, ground }: Look): string {
  const grounds = ground.kind === 'gradient' ? [colours.background, ground.to] : [colours.background]
  // On a page of its own, the form stands on a ground with some of the button's colour in it.
  grounds.push(landingGround(colours))
  return mended('#b3203f', [{ grounds, wanted: TEXT_CONTRAST }]) ?? colours.text
}

import { css } from './css'
import type { FormContent } from '#core/form'
import { isJoined, besideControls } from './field-rules'
import { type Rule, insistent, selectorIn, em } from './rule'

/** Side by side where there is room: field and button, picture and words. */
export function roomyRules(content: FormContent, scope: string): string[] {
  const { look, words, fields } = content
  const { picture, space, border } = look
  const joined: Rule[] = isJoined(content)
    ? [
        ['.askbox-row', 'flex-wrap:nowrap;gap:0'],
        ['.askbox-field', 'flex:1 1 0'],
        ['.askbox-input', 'border-start-end-radius:0;border-end-end-radius:0'],
        [
          '.askbox-button',
          css`
            flex: none;
            border-start-start-radius: 0;
            border-end-start-radius: 0;
          `,
        ],
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
          css`
            position: relative;
            flex: 1 1 42%;
            min-height: ${content.look.type.size / 6}em;
            margin: -${inside};
            margin-inline-${isStart ? 'end' : 'start'}: 0;
            border-radius: ${isStart ? `${corner} 0 0 ${corner}` : `0 ${corner} ${corner} 0`};
            order: ${isStart ? 0 : 1};
          `,
        ],
        [
          '.askbox-picture img',
          css`
            position: absolute;
            inset: 0;
            height: 100%;
            max-height: none;
            aspect-ratio: auto;
          `,
        ],
        ['.askbox-body', `flex:1 1 58%;align-self:center;padding-block:${em(space.inside / 4)}`],
      ]
    : []
  return [fromWidth(joinedFrom(content), joined, scope), fromWidth(SIDE_BY_SIDE_EM, beside, scope)].filter(Boolean)
}

/** From which width of the form on its only field and the button fit beside each other, in `em`. */
function joinedFrom(content: FormContent): number {
  const example = content.fields.find(({ kind }) => kind !== 'hidden')?.placeholder ?? ''
  const field = Math.min(MOST_FIELD_EM, Math.max(BESIDE_BUTTON_EM, example.length * LETTER_EM + FIELD_EDGES_EM))
  const least = field + content.words.button.length * LETTER_EM
  if (isWithSide(content)) return Math.ceil(least / 0.54)
  // Words stand beside the fields from some 36 em on, and leave them three fifths.
  return Math.ceil(content.look.words === 'beside' && least / 0.6 > 36 ? least / 0.6 : least)
}

/** Whether a picture stands at the side of words and fields where there is room. */
export function isWithSide({ look, illustration }: Pick<FormContent, 'look' | 'illustration'>): boolean {
  return illustration !== null && (look.picture.place === 'start' || look.picture.place === 'end')
}

/** Rules from a width of the form on, in its own `em`. */
function fromWidth(em: number, rules: readonly Rule[], scope: string): string {
  const inner = rules.map(([selector, declarations]) => `${selectorIn(scope, selector)}{${insistent(declarations)}}`)
  return rules.length === 0 ? '' : `@container askbox (min-width:${em}em){${inner.join('')}}`
}

/** A letter of a button's words is about so wide, in `em`; with its padding and the least that an address needs beside it. */
const LETTER_EM = 0.6

const BESIDE_BUTTON_EM = 11
/** Its example is not cut off beside the button, within reason; with the space at both ends of a field. */
const MOST_FIELD_EM = 20
const FIELD_EDGES_EM = 2

/** From here on a picture has a column of its own, and words and fields still one that is wide enough. */
const SIDE_BY_SIDE_EM = 34

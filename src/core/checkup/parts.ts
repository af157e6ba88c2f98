import type { State } from '#core/css'

/** Where words stand in the rendering, as selectors, with what people call them. The first that holds a text names it. */
export const textParts: readonly { selector: string; what: string }[] = [
  { selector: '.askbox-heading', what: 'The heading' },
  { selector: '.askbox-introduction', what: 'The text' },
  { selector: '.askbox-points', what: 'The points' },
  { selector: '.askbox-note', what: 'The note' },
  { selector: '.askbox-error', what: 'An error' },
  { selector: '.askbox-hint', what: 'A hint' },
  { selector: '.askbox-label', what: 'A label' },
  { selector: '.askbox-part-label', what: 'A label' },
  { selector: '.askbox-option', what: 'A choice' },
  { selector: '.askbox-step-name', what: 'The name of a step' },
  { selector: '.askbox-button', what: 'The button’s words' },
  { selector: '.askbox-small', what: 'The small line' },
  { selector: '.askbox-quote', what: 'The quote' },
  { selector: '.askbox-after', what: 'The text after' },
  { selector: '.askbox-input', what: 'What visitors type' },
  { selector: '::placeholder', what: 'The example in a field' },
]

/** What people call the part of a form that a selector of the rendering begins with, and the state it is in. */
export function partName(selector: string): string {
  const { bare, words } = withoutState(selector)
  return `${textParts.find(({ selector }) => bare === selector || bare.startsWith(`${selector} `))?.what ?? 'A part'}${words}`
}

const stateWords: Record<State, string> = {
  hover: ' under the pointer',
  focus: ' with the keyboard there',
}
const STATE = /:(hover|focus)\b/

/** The selector of a part in a state, as rules have it. */
export function selectorInState(selector: string, state: State): string {
  return selector === '::placeholder' ? `.askbox-input:${state}::placeholder` : `${selector}:${state}`
}

/** The selector without its state, and that state in words, empty where it is in none. */
export function withoutState(selector: string): { bare: string; words: string } {
  const state = STATE.exec(selector)?.[1] as State | undefined
  const bare = selector.replace(STATE, '')
  return {
    bare: bare === '.askbox-input::placeholder' ? '::placeholder' : bare,
    words: state === undefined ? '' : stateWords[state],
  }
}

import type { State } from '#core/css'

/** Where words stand in the rendering, as selectors, with what people call them. The first that holds a text names it. */
export const textPlaces: readonly { place: string; what: string }[] = [
  { place: '.askbox-heading', what: 'The heading' },
  { place: '.askbox-introduction', what: 'The text' },
  { place: '.askbox-points', what: 'The points' },
  { place: '.askbox-note', what: 'The note' },
  { place: '.askbox-error', what: 'An error' },
  { place: '.askbox-hint', what: 'A hint' },
  { place: '.askbox-label', what: 'A label' },
  { place: '.askbox-part-label', what: 'A label' },
  { place: '.askbox-option', what: 'A choice' },
  { place: '.askbox-step-name', what: 'The name of a step' },
  { place: '.askbox-button', what: 'The button’s words' },
  { place: '.askbox-small', what: 'The small line' },
  { place: '.askbox-quote', what: 'The quote' },
  { place: '.askbox-after', what: 'The text after' },
  { place: '.askbox-input', what: 'What visitors type' },
  { place: '::placeholder', what: 'The example in a field' },
]

/** What people call the place that a selector of the rendering begins with, and the state it is in. */
export function placeName(selector: string): string {
  const { place: bare, words } = withoutState(selector)
  return `${textPlaces.find(({ place }) => bare === place || bare.startsWith(`${place} `))?.what ?? 'A part'}${words}`
}

const stateWords: Record<State, string> = {
  hover: ' under the pointer',
  focus: ' with the keyboard there',
  active: ' while pressed',
}
const STATE = /:(hover|focus|active)\b/

/** The selector of a place in a state, as rules have it. */
export function placeInState(place: string, state: State): string {
  return place === '::placeholder' ? `.askbox-input:${state}::placeholder` : `${place}:${state}`
}

/** The place alone, and its state in words, empty where it is in none. */
export function withoutState(selector: string): { place: string; words: string } {
  const state = STATE.exec(selector)?.[1] as State | undefined
  const place = selector.replace(STATE, '')
  return {
    place: place === '.askbox-input::placeholder' ? '::placeholder' : place,
    words: state === undefined ? '' : stateWords[state],
  }
}

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

/** What people call the place that a selector of the rendering begins with. */
export function placeName(selector: string): string {
  return textPlaces.find(({ place }) => selector === place || selector.startsWith(`${place} `))?.what ?? 'A part'
}

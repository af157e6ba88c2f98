/*
 * What owners paste is read here, by a parser of the HTML standard. It is large and seldom needed, so it comes when it is
 * first needed: import this door dynamically.
 */
export { elementsIn, type PastedElement } from './elements'
export { styleSheetIn } from './styles'
export { readVideo } from './video'

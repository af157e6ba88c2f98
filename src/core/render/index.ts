export { type Node, type Element, element, toHtml, escapeText } from './node'
export { renderForm, type FormState, type PlacedForm } from './form'
export { formStyles } from './styles'
export { answerPage, formAgainPage, noticePage, previewPage, type WayBack } from './page'

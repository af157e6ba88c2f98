export { attributesOf, childrenInDom, type Node, type Element, element, toHtml, escapeText } from './node'
export type { FormState } from './field'
export { renderForm } from './form'
export type { FormSettings, PlacedForm } from './placed'
export { formStyles, PHONE_WIDTH, PLACE_STYLE, scopeOf } from './styles'
export { answerPage, type AnswerSign, closedPage, signOf } from './answer-page'
export { onwardPage } from './onward-page'
export { documentOf, type Page, toDocument } from './document'
export {
  formAgainPage,
  formWithSpace,
  framePage,
  type FrameTells,
  noticePage,
  type PageContent,
  type Press,
  previewPage,
  puzzlePage,
} from './page'
export { knownNode } from './known'
export { landingPage, type LandingOptions } from './landing'
export { meddlesomeStyles } from './meddlesome'
export { popUpCardStyles, settingsOf, wiredClosed, type WiredForm, wiredForm, type WireNode } from './wire'
export { type WayBack, wayBackTo } from './way-back'

export { mailInLanguage } from './language'
export { startMail, startMessages, withPlaceholders } from './start'
export {
  darkScheme,
  escaped,
  filled,
  htmlOf,
  initialOf,
  isolatedLatin,
  MAIL_CORNER,
  oneLine,
  plainBody,
  spansHtml,
} from './markup'
export { type MessageFacts, type RenderedMessage, renderMessage } from './render'
export { messageWordsOf } from './words'
export { greetingName, withoutLinks } from './typed'

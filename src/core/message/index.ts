export { startMail, startMessages, withPlaceholders } from './start'
export { filled, type MessageFacts, type RenderedMessage, renderMessage } from './render'
export { messageWordsOf } from './words'
export { greetingName, withoutLinks } from './typed'

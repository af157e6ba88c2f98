export {
  fileIdSchema,
  type Gift,
  type Mail,
  type MailKind,
  mailSchema,
  type MailSettings,
  mailSettingsSchema,
  MAX_GIFT_BYTES,
  type Message,
  type MessageKind,
  messageKinds,
  messageNames,
  messagesInUse,
  outcomesWith,
} from './mail'
export { startMail, startMessages, withPlaceholders } from './start'
export { filled, type MessageFacts, type RenderedMessage, renderMessage } from './render'
export { gifts, handsOver, isGiftOpen, sizeWords } from './gift'
export { countriesOf, countryOf, mustConfirm, type RegionGroup, regionGroups, type Whereabouts } from './region'
export { domainOf, type MailProblem, mailProblems, needsLink } from './check'
export { messageWordsOf } from './words'

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
  mustConfirm,
  outcomesWith,
} from './mail'
export { gifts, handsOver, isGiftOpen, sizeWords } from './gift'
export { domainOf, isAligned, type MailProblem, mailProblems, needsLink } from './check'

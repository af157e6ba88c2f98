export {
  fileIdSchema,
  type Gift,
  GIFT_PIECE_BYTES,
  type GiftPiece,
  giftPieceSchema,
  type Mail,
  type MailKind,
  mailSchema,
  type MailSettings,
  mailSettingsSchema,
  MAX_GIFT_BYTES,
  type Message,
  type MessageKind,
  messageKinds,
  mailNames,
  messageNames,
  messagesInUse,
  mustConfirm,
  outcomesWith,
} from './mail'
export { giftFilesOf, gifts, giftsOnAnswer, handsOver, isGiftOpen, sizeWords } from './gift'
export { answerLink } from './answer-link'
export { hasSender, ownersAddress } from './owner'
export { domainOf, type MailProblem, mailProblems, needsLink } from './check'
export { causeOf, enhancedStatus, isWrongReason, type MailReply, type RefusalCause } from './refusal'
export { type Delivery, deliverySchema } from './delivery'
export { type Caused, type CausedMail, mailsCausedBy, MOST_MAILS_A_DAY } from './caused'

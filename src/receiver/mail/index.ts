export {
  type ComposedMail,
  compose,
  composeMessage,
  type ComposeParts,
  envelopeOf,
  listHeaders,
  NotNeeded,
} from './compose'
export { dkimRecord, makeDkim } from './dkim'
export { StandInMailbox } from './mailbox'
export { MAX_REPORT_BYTES, takeReport } from './reports'
export { codeMail, newCode, throughOf, typedIn } from './own-inbox'
export { findingsOf, lookFor, type NameServers, stopLooking } from './sender-check'
export { type MailServerSettings, mailServerSettingsSchema, serverFromUrl } from './settings'
export { bytesOf, openTransport, refusalOf } from './transport'
export { openThreadedTransport } from './threaded-transport'
export { Sender } from './sender'
export { type AnsweredSignUp, isOfWaiting, linksOf, namedBy, signUpIn, signUpToken } from './links'
export { type MailParts, mailParts } from './parts'

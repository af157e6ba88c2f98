export { type ComposedMail, compose, composeMessage, type ComposeParts } from './compose'
export { dkimRecord, makeDkim } from './dkim'
export { StandInMailbox } from './mailbox'
export { MAX_REPORT_BYTES, takeReport } from './reports'
export { codeMail, newCode, throughOf, typedIn } from './own-inbox'
export { checkSender, type ResolveTxt } from './sender-check'
export {
  type MailServerSettings,
  mailServerSettingsSchema,
  paceSchema,
  serverFromUrl,
  type SmtpServer,
  smtpServerSchema,
} from './settings'
export { bytesOf, openTransport, refusalOf } from './transport'
export { openThreadedTransport } from './threaded-transport'
export { Sender } from './sender'

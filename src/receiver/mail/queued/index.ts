export {
  MAIL,
  type MailBody,
  mailJob,
  mailOf,
  mailsInState,
  mailsToMember,
  type QueuedMail,
  type QueuedMailState,
} from './mail-job'
export { type MailFate, queueExtra, queueFor, queueMailsFor } from './queueing'

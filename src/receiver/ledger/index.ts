export {
  type Confirmed,
  type Ledger,
  OTHER_HISTORY,
  type Page,
  type PeopleLedger,
  type SignUpResult,
  type Space,
} from './ledger'
export {
  MAIL,
  type MailBody,
  mailJob,
  mailOf,
  mailsInState,
  mailsToMember,
  type QueuedMailState,
  type QueuedMail,
} from './mail-job'
export { type HandBody, type HandOverCounts, handOverWorker, sealedFor, TABLE_WRITTEN } from './handing'
export type { Published } from './published'
export type { CountedView } from './results'
export { type BatchProblem, type BatchResult, BATCHES } from './batches'
export { openLedger } from './open'
export type { Values } from './values'

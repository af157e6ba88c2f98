/** What the owner's API takes and answers: the receiver checks and describes by these schemas, the workshop reads by their types. */
export {
  alertSettingsSchema,
  backupProblemSchema,
  type BackupSettings,
  backupSettingsSchema,
  type CareState,
  lastBackupSchema,
  type RaisedAlert,
  raisedAlertSchema,
} from './care'
export {
  type Exchange,
  exchangeSchema,
  type KeyGrant,
  type OpenAddress,
  type Opening,
  type Openings,
  type OwnersKey,
  type PairingAddress,
} from './keys'
export { allows, type Grant, KEY_WITHDRAWN, MOST_ERASED_BY_EDITOR, type Needs, type Right, rights } from './right'
export { type BatchProgress, type ErasureReport } from './batches'
export { type ChangeOutcome, type CommandOutcome, type JournalCheck, type News, newsSchema } from './history'
export {
  type Box,
  haltedSchema,
  type RefusingDomain,
  refusingDomainSchema,
  type MailOnList,
  type MailServer,
  type AwaitedSender,
  awaitedSenderSchema,
  type MailState,
  type MessageWish,
  type OwnInbox,
  type Pace,
  paceSchema,
  type SenderFinding,
  type SmtpServer,
  smtpServerSchema,
  type ToMember,
} from './mail'
export {
  type FeedState,
  type LetterCopy,
  type LetterNeed,
  type LetterReadersNow,
  type LetterTrialStep,
  type SeriesState,
  type TriedLink,
} from './letters'
export { type MoveState } from './moving'
export { type ClientPage } from './clients'
export { type Present, PRESENT_FOR_MS } from './presence'
export { type BearerState, type BrowserState, type ClockLeap } from './receiver'
export {
  type AskService as AskService,
  type AskedService,
  type ComparedPerson,
  type ComparedStanding,
  type Comparison,
  type ConnectionStanding,
  type HandedShown,
  type HandOverStanding,
  type RefusedPerson,
  type Outside,
  type TriedHandOver,
} from './hand-over'
export { type Seen } from './results'
export { type SiteNeed } from './sites'
export { api } from './api'
export { examples } from './examples'
export type { Route } from './route'

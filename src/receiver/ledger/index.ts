export {
  type ChangeOutcome,
  type CommandOutcome,
  type Confirmed,
  type Ledger,
  OTHER_HISTORY,
  type Page,
  type PeopleLedger,
  RETRY_WINDOW_MS,
  type SignUpResult,
} from './ledger'
export type { Published } from './published'
export { openLedger } from './open'
export type { Space } from './space'
export type { Outbox, Tried } from './outbox'

export {
  type ChangeOutcome,
  type CommandOutcome,
  type Ledger,
  OTHER_HISTORY,
  type Page,
  RETRY_WINDOW_MS,
  type SignUpResult,
} from './ledger'
export type { Published } from './published'
export { openLedger } from './open'
export type { Space } from './space'

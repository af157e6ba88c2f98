export { type Ledger, openLedger } from './ledger'

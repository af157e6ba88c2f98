export { type Receipt, receiptsOf, type ReceiptNames } from './receipt'
export { consentRecord, type RecordFacts } from './record'

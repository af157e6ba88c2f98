export { type Receipt, receiptsOf, receiptText, type ReceiptNames } from './receipt'
export { consentRecord, type RecordFacts } from './record'

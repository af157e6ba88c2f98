export {
  type Arrival,
  arrivalSchema,
  type CameFrom,
  cameFromSchema,
  type Consent,
  emailIn,
  type Entry,
  entryKinds,
  type HeldReason,
  MOST_MESSAGES_ERASED,
  type SentMessage,
  sentMessageSchema,
  entrySchema,
  isReceipt,
  type NewEntry,
  type Verdict,
} from './entry'
export { type Command, commandSchema } from './command'
export { idOf, personalText, skeletonOf } from './mark'
export { withoutNames } from './without-names'
export { blanked, commitmentTo, hashOfErased } from './erased'
export { columnKeySchema } from './values'
export {
  type Batch,
  type BatchCounts,
  MOST_ASKED,
  batchCountsSchema,
  type BatchPurpose,
  batchSchema,
  type Chunk,
  chunkSchema,
  MAX_CHUNK,
  MOST_CHANGED,
  type MemberChange,
  memberChangeSchema,
  MOST_NAMED,
  type PassedOver,
  type PassedOverReason,
  passedOverSchema,
  type PersonRow,
} from './batch'

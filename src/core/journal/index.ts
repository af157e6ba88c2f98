export {
  type Arrival,
  arrivalSchema,
  type CameFrom,
  cameFromSchema,
  type Consent,
  type Entry,
  entryKinds,
  entrySchema,
  type NewEntry,
  type Verdict,
} from './entry'
export { type Command, commandSchema } from './command'
export { idOf, skeletonOf } from './mark'

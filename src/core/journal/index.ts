export {
  type Arrival,
  arrivalSchema,
  type CameFrom,
  cameFromSchema,
  type Consent,
  emailIn,
  type Entry,
  entryKinds,
  entrySchema,
  type NewEntry,
  type Verdict,
} from './entry'
export { type Command, commandSchema } from './command'
export { idOf, personalText, skeletonOf } from './mark'

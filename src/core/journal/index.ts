export { type Arrival, arrivalSchema, type Consent, type Entry, entrySchema, type NewEntry, type Verdict } from './entry'
export { type Command, commandSchema } from './command'

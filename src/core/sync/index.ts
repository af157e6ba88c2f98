export type { Reference } from './kind'
export { type Preferences, preferencesSchema } from './kind-preferences'
export {
  type Bodies,
  type Body,
  bodyOf,
  type Drafted,
  isImmutable,
  type Kind,
  keyOf,
  kindOf,
  kinds,
  objectId,
  readBody,
  referencesOf,
  type Stored,
  type Table,
  type Tables,
} from './registry'
export { mergeValues, reconcile, type Reconciled } from './merge'
export { type Change, type ChangeDecision, type ChangeRefusal, changeSchema, decideChange, type Kept } from './change'

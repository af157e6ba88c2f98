export {
  type Bodies,
  type Body,
  bodySchemas,
  isImmutable,
  type Kind,
  keyOf,
  kinds,
  type Preferences,
  referencesOf,
} from './kinds'
export { mergeValues, reconcile, type Reconciled } from './merge'
export { type Change, type ChangeDecision, type ChangeRefusal, changeSchema, decideChange, type Kept } from './change'

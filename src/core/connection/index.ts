export { type Abilities, abilitiesOf, placeOf, serviceOf } from './abilities'
export {
  retryTime,
  type ServiceAnswer,
  textAt,
  valueAt,
  type AnswerVerdict as ServiceVerdict,
  answerVerdict as verdictOnAnswer,
} from './answer'
export { comparedAddress, type ListDifference, differencesOf, type Standing, standingOf } from './compare'
export { type Connection, connectionSchema, type Way, webhookEvents, type WebhookEvent } from './connection'
export { keyProblem, originsOf } from './key'
export { withoutKey } from './mask'
export { type HandOver, handOverSchema, textOfWanted, type WantedState, wantedOf } from './hand-over'
export {
  type ChangedThere,
  changesThere,
  type FieldMatch,
  lostMatches,
  matchAnew,
  matchFields,
  unfilledFields,
} from './match'
export {
  fieldsIn,
  itemsIn,
  listsIn,
  memberIn,
  nextPage,
  theirKinds,
  type TheirField,
  type TheirList,
  type TheirMember,
} from './read'
export { type Filled, formText, type KeyedRequest, type PlainRequest, requestFor, type RequestValues } from './request'
export {
  type Ask,
  type Meaning,
  meanings,
  readServiceFile,
  type RequestName,
  requestNames,
  type ServiceFile,
  serviceFileSchema,
} from './service-file'
export { shippedServices } from './services'

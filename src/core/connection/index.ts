export { type Abilities, abilitiesOf, placeOf, serviceOf } from './abilities'
export {
  outcomeOfOne,
  retryTime,
  type ServiceAnswer,
  textAt,
  valueAt,
  type AnswerVerdict as ServiceVerdict,
  answerVerdict as verdictOnAnswer,
} from './answer'
export { comparedAddress, type ListDifference, differencesOf, type Standing, standingOf } from './compare'
export { type Connection, connectionSchema, type Way, webhookEvents, type WebhookEvent } from './connection'
export { handOverMs, USUAL_MOST, USUAL_PACE } from './forecast'
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
  tagIdsIn,
  theirKinds,
  type TheirField,
  type TheirList,
  type TheirMember,
} from './read'
export { linkedNext, type NextPage, nextPage } from './pages'
export {
  type Filled,
  formText,
  keyParts,
  type KeyedRequest,
  missingIn,
  namesById,
  type PlainRequest,
  requestFor,
  type RequestValues,
  SPREAD,
} from './request'
export { spelledValues } from './spelled'
export {
  type AnswerRule,
  type Ask,
  type FormPart,
  type JsonTemplate,
  type Meaning,
  meanings,
  readServiceFile,
  type RequestName,
  requestNames,
  type ServiceFile,
  serviceFileSchema,
  type ServiceRequest,
} from './service-file'
export { shippedServices } from './services'

export {
  addressParts,
  answerIn,
  birthdayParts,
  chosenIn,
  controlNames,
  errorIn,
  fieldErrors,
  type FieldError,
  isAsked,
  isNeededPart,
  MAX_LINE_LENGTH,
  MAX_LONG_LENGTH,
  type PostedValues,
  valueIn,
} from './rules'
export { passedOnBy } from './passed-on'
export { verdictOn, readSignUp, type Reading, type SignUp, type ListState } from './verdict'
export { ALIKE_DAYS, alikeAs, messageEntry, MOST_ALIKE, type Written } from './message'
export { readPosted, type PostedProblem } from './posted'
export { pageOf } from './page'
export { cameFrom, sourceOf } from './came-from'
export { ON_OUR_PAGE } from './on-our-page'

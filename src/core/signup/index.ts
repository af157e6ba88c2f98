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
  MAX_LINE_LENGTH,
  MAX_LONG_LENGTH,
  type PostedValues,
  valueIn,
} from './rules'
export { arrivalOf, judge, type Judgement, type SignUp, type Standing } from './judge'
export { readPosted, type PostedProblem } from './posted'
export { pageOf } from './page'

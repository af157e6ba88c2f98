export { fieldErrors, type FieldError, type PostedValues } from './rules'
export { arrivalOf, judge, type Judgement, type SignUp, type Standing } from './judge'
export { readPosted, type PostedProblem } from './posted'
export { pageOf } from './page'

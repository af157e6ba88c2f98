export {
  ancestorsOf,
  attribute,
  closest,
  elementsBelow,
  type FormOnPage,
  formsOn,
  isDisabled,
  isSubmitButton,
  textIn,
  typeOf,
} from './controls'
export { parsePage } from './parse-page'
export { decodedBy } from './encoding'
export { type FormEntry, optionValue, type Touched, type Touches, valueOf } from './entries'
export { baseOf, type PageFacts, resolvedOn, type Submission, submissionOf } from './submission'

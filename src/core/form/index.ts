export { type Form, formSchema, isPublishedAs, type Theme, themeSchema, type Version, versionSchema } from './form'
export {
  type Answer,
  type AnswerCase,
  answerCases,
  answersInPlace,
  type FormContent,
  type Guard,
  formContentSchema,
  type Illustration,
  type Known,
  type Outcome,
  outcomes,
  picturesIn,
  plainWordKeys,
  richWordKeys,
  sameContent,
  type WordKey,
  wordNames,
  type Words,
} from './content'
export {
  answersToDependOn,
  type Choice,
  type Field,
  type FieldKey,
  fieldKinds,
  type FieldKind,
  type FieldOf,
  type FormedKind,
  type ForKinds,
  type BoxKind,
  type LineKind,
  type LongKind,
  fieldSchema,
  fieldTitle,
  isBox,
  isLong,
  freeChoiceKey,
  kindName,
  newField,
  suggestedAutofill,
} from './field'
export { lineRoomOf, tooWideForLine } from './arrangement'
export { type Direct, directSchema, serviceHostOf } from './direct'
export { autofillTokens, isAutofillToken } from './autofill'
export { columnKey, columnLabel, columnsLacking, fieldWithColumn, fillsColumn } from './column'
export { canAdd, fieldAdded, fieldChanged, fieldMoved, fieldRemoved } from './fields'
export { inLanguage } from './language'
export {
  foreignSamples,
  reshaped,
  sampleWords,
  type Shape,
  shapeOf,
  shapes,
  shapesFor,
  untouchedSamples,
} from './shapes'
export { answerTo, ownPageOf, shortAddress } from './answer'
export { closedWords } from './closed'
export {
  answersInPlaceOf,
  messagesOf,
  isOurAnswer,
  ourAnswer,
  takesMessages,
  USUAL_DAYS_KEPT,
  withMessage,
  withoutMessage,
  withOwner,
} from './message'
export { openedWords, shapeForSpot, startContent } from './start'
export { honeypotName } from './honeypot'
export { sampleAnswers } from './samples'
export { type Difference, differences } from './compare'

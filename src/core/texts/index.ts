export { type AnswerTexts, answerTextsOf } from './answers'
export { type StartTexts, startTextsOf } from './start'
export { type InterfaceTexts, type TextKey } from './english'
export { directionOf, filledIn, type Language, languageNames, languages, textKeys, textsOf } from './languages'

export {
  answerTextsOf,
  directionOf,
  filledIn,
  type Language,
  languageNames,
  languages,
  startTextsOf,
  textKeys,
  textsOf,
} from './languages'
export type { AnswerTexts, InterfaceTexts, StartTexts, TextKey } from './texts'

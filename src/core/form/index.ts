export { type Form, formSchema, type Version, versionSchema } from './form'
export {
  type Answer,
  type AnswerCase,
  answerCases,
  type FormContent,
  formContentSchema,
  sameContent,
  type WordKey,
} from './content'
export { type Field, type FieldKey, fieldSchema, emailField, firstNameField } from './field'
export { startContent } from './start'
export { honeypotName } from './honeypot'

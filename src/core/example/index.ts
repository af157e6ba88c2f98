export { type ExampleBody, type ExampleMethod, type ExampleRequest } from './example-request'
export { LONGEST_TEXT, type ReadExamples, readExamples } from './read-examples'
export { type Piece, type PieceId, piecesOf } from './pieces'
export { guessRoles, guessStep, type Role, roles, type Roles } from './roles'
export { type AnswerReading, fieldsBeside, type MadeService, nameOf, serviceFrom } from './service-from'
export type { UnderstoodRequest } from './understood-request'
export {
  bringsMany,
  type ExampleAnswer,
  guessReading,
  guessSaid,
  readParts,
  type ReadStep,
  withPressed,
} from './read-answer'
export {
  type DescribedOperation,
  LONGEST_DESCRIPTION,
  offeredFor,
  type ReadDescription,
  readDescription,
} from './description'
export { type Corrections, neededOf, noCorrections, type ReadRequest, understand, type Understood } from './understand'
export { outcomesBy, refusalIn } from './refusal'

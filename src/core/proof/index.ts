export { caseIds, caseName, type RehearsalCase, rehearsalCases } from './cases'
export { type Fill, fillsOf } from './fill'
export { CODE_LENGTH, rehearsalAddress, rehearsalCodeIn } from './mark'
export type { SeenMember } from './judge'
export type { RehearsalSubject } from './page'
export { personFor } from './person'
export { type AnsweredPage, type As, type Browsed, type Browser, type FetchedPage, NoAnswer, type Ports } from './ports'
export {
  countsOf,
  differencesBetween,
  type Evidence,
  type Failure,
  latestProof,
  type MendPlace,
  type Proof,
  proofSchema,
  type Step,
  verdictWords,
} from './proof'
export { kindOfCode } from './page'
export { makeProof } from './make'
export { rehearse } from './rehearse'
export type { Shown } from './shown'

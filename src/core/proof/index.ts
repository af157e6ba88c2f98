export { caseIds, caseName, type RehearsalCase, rehearsalCases, wordingStep } from './cases'
export { expectedAnswer, expectedError, expectedMember, expectedOutcome, requiredFields } from './expected'
export {
  evidence,
  failure,
  judgeAnswer,
  judgeKept,
  judgeMember,
  heldBack,
  isSamePage,
  judgeOwnPage,
  judgeRefusal,
  type SeenMember,
} from './judge'
export { judgeMail, linkIn, type OnItsWay, type ReceivedMail, rewrittenLinks, subjectOf } from './mail'
export { CODE_LENGTH, REHEARSED_OWNER, rehearsalAddress, rehearsalCodeIn } from './mark'
export { MADE_UP_MESSAGE, nameFields, personFor, type PersonAnswers, unusualNames, wrongAddresses } from './person'
export {
  countsOf,
  differencesBetween,
  type Evidence,
  isAwaiting,
  type Failure,
  latestProof,
  type ProofLook,
  MAX_SEEN_LENGTH,
  type MendPlace,
  type Proof,
  proofSchema,
  type Step,
  verdictWords,
} from './proof'
export { type Viewer, type ViewerId, viewerIds, viewerOf, viewers } from './viewers'
export { type Shown, squeezed } from './shown'
export { type HandedOn, handOverFailure, onwardStep } from './hand-over'

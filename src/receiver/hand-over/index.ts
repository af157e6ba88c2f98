export { backAddress, takeBack } from './back'
export { type ApiWay, type Asked, type ServiceClient, openClient } from './client'
export { closedBreaker, isFailing } from './breaker'
export { Comparisons, membersOf } from './comparing'
export { writeTables } from './files'
export { listedBy, lookUp } from './hand'
export { type Talk } from './talk'
export { forgetGone, type Key, Keys } from './keys'
export { type HandOverApi, handOverParts } from './parts'
export { rehearseHandOvers } from './rehearsed'
export { SignIns } from './sign-in'
export { tryHandOver } from './tried'
export { changedThere, forgetSeen, lookAtServices } from './watched'
export { HandOverWorkers } from './worker'
export {
  type HandBody,
  type HandOverCounts,
  handOverWorker,
  type Handing,
  sealedFor,
  TABLE_WRITTEN,
  withHandOvers,
} from './handing'
export { type HandOvers, openHandOvers } from './hand-overs'

export { OutsideProblem, readAddress } from './guard'
export { type GuardedProxy, openGuardedProxy } from './guarded-proxy'
export { fetchPage, type OutsidePage } from './page'
export { type GuardedAnswer, type GuardedRequest, guardedRequest } from './request'

export { pauseAfter } from './backoff'
export { Loop } from './loop'
export { SentCounts } from './pace'
export { LEASE_MS, openQueue, type Outcome, type Queue } from './queue'

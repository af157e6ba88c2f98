export { type Client, clientFor, ReceiverProblem, Unreachable } from './client'
export { holdExchange, refillReceiver, takePublished, takeReceiversHistory } from './exchange'
export { pairFromAddress } from './pairing'

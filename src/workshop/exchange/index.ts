export { type Client, clientFor, ReceiverProblem, Unreachable } from './client'
export { holdExchange, refillReceiver, takeReceiversHistory } from './exchange'
export { pairFromAddress } from './pairing'

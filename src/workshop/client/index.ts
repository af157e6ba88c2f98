export { type Client, clientFor, type Pairing, ReceiverProblem, Unreachable } from './client'

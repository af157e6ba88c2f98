export {
  type ChangeOutcome,
  type Client,
  clientFor,
  type CommandOutcome,
  type News,
  type Pairing,
  ReceiverProblem,
  Unreachable,
} from './client'

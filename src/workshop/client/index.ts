export {
  type Box,
  type ChangeOutcome,
  type Client,
  clientFor,
  type CommandOutcome,
  type MailOnList,
  type MailState,
  type News,
  type Pairing,
  ReceiverProblem,
  type SenderFinding,
  Unreachable,
} from './client'

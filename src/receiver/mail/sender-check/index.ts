export { awaitedJob, findingsOf, lookFor, stopLooking } from './awaited'
export { checkSender, type SenderParts } from './check'
export { type NameServers, nameServers } from './name-servers'

export { apiRoutes } from './api'
export { pairingAddress } from './keys'
export type { MailApiParts } from './mail'

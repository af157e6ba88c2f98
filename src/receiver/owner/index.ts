export { apiRoutes } from './api'
export type { MailApiParts } from './mail'

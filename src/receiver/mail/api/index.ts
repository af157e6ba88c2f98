export { mailApiRoutes } from './handlers'
export type { MailApiParts } from './parts'
export { mailTryRoutes } from './tries'
export { reportRoutes } from './reports'

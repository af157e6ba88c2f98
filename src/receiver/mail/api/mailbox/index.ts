export { mailboxRoutes } from './handlers'

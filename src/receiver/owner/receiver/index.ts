export { receiverRoutes } from './handlers'

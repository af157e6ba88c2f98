export { giftRoutes } from './handlers'

export { batchRoutes } from './handlers'

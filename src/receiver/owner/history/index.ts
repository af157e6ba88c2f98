export { historyRoutes } from './handlers'

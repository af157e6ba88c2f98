export { careApiRoutes } from './handlers'

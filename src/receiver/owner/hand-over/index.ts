export { handOverApiRoutes } from './handlers'

export { rehearsalApiRoutes } from './handlers'

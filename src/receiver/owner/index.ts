export { apiRoutes } from './api'

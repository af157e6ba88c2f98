export { uploadRoutes } from './handlers'

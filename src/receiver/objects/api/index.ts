export { pictureRoutes } from './handlers'

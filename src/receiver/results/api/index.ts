export { resultRoutes } from './routes'

export { sitePageRoutes } from './handlers'

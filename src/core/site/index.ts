export { type Site, type SiteKind, siteSchema } from './site'
export { siteKinds } from './kinds'
export { addressProblem, completedAddress, isLoopback, siteHost } from './address'

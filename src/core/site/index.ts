export { type Site, type SiteKind, siteSchema } from './site'
export { siteKinds, type SiteKindFacts } from './kinds'
export { addressProblem, completedAddress, isLoopback, siteHost } from './address'

export { type Site, type SiteKind, siteSchema } from './site'
export { siteKinds, type SiteKindFacts } from './kinds'
export { addressProblem, isLoopback, siteHost } from './address'

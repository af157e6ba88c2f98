export { type Site, type SiteKind, siteSchema } from './site'
export { siteKinds } from './kinds'
export { type SiteProfile, siteProfiles } from './profiles'
export { addressProblem, completedAddress, isLoopback, siteHost } from './address'

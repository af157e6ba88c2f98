export { type Site, siteSchema } from './site'
export { siteKinds } from './kinds'
export { profileOf, type SiteKind, type SiteProfile, siteProfiles, siteProfileSchema } from './profiles'
export { addressProblem, completedAddress, isLoopback, siteHost } from './address'

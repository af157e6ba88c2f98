export { useAsked } from './asked'
export { type Brought, type DryRun, type FileLook, type FileReading, type ShownRow, type ShownVerdict } from './imports'
export { type GivenConsent, type PersonFacts, type Settled, type ShownMember, newMemberId, useMembers } from './members'

export { type Brought, type DryRun, type FileLook, type Reading, type ShownRow, type ShownVerdict } from './imports'
export { type GivenConsent, type Person, type Settled, type ShownMember, newMemberId, useMembers } from './members'

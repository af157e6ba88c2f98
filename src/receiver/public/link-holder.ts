import type { MemberId } from '#core/ids'
import type { Member } from '#core/list'
import type { Ledger } from '../ledger'
import type { PeopleLedger } from '../people'
import type { Rehearsals } from '../rehearsals'

/** Somebody, and in whose ledger they are: real, or a rehearsal's made-up person, who reads what others read. */
export interface LinkHolder {
  people: PeopleLedger
  member: Member
}

/** Resolves with null where nobody is called so. */
export async function holderOf(id: MemberId, ledger: Ledger, rehearsals: Rehearsals): Promise<LinkHolder | null> {
  for (const people of [ledger, ...(await rehearsals.spaces())]) {
    const member = await people.member(id)
    if (member !== null) return { people, member }
  }
  return null
}

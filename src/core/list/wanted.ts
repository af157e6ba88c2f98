import type { FormId, ListId, MemberId } from '#core/ids'
import type { Filter } from './filter'
import type { Member, MemberStatus } from './member'

/** Who of a list is looked for, in which order, and which stretch of them. */
export interface Wanted {
  list: ListId
  /** Came through this form. */
  form?: FormId
  status?: MemberStatus
  /** Words to find in address, values, tags, page or mark; in any letter case. */
  search?: string
  /** Spots whose people are found, too: those that have the searched words in their names. */
  spots?: readonly string[]
  filter?: Filter
  /** Those alone, or all but those. */
  only?: readonly MemberId[]
  except?: readonly MemberId[]
  /** Newest first where not said. */
  sort?: Sort
  /** So many of the first are passed over. */
  offset?: number
  /** No more than so many. */
  limit?: number
}

/** What people are sorted by: a fact of each, or a column of the list. */
export interface Sort {
  by: 'since' | 'email' | 'status' | 'tags' | 'spot' | 'page' | `column ${string}`
  isDescending: boolean
  /** By spot: in the order of their names, which are not known here. */
  spots?: readonly string[]
}

/** Some of those who are wanted, and how many there are in all. */
export interface Found {
  members: Member[]
  total: number
}

import type { Entry, Verdict } from '#core/journal'
import type { MemberId } from '#core/ids'
import type { Member } from './member'

/** The member an entry is about, or null when it changes nobody (a bot, someone already on the list). */
export function affectedMember(entry: Entry): MemberId | null {
  if (entry.kind !== 'arrival') return entry.member
  return isJoining(entry.verdict) ? entry.member : null
}

/** Whether a sign-up makes somebody a member, at once or once confirmed. */
export function isJoining(verdict: Verdict): verdict is 'joined' | 'confirm-first' {
  return verdict === 'joined' || verdict === 'confirm-first'
}

/**
 * The fold of the journal: what `member` (null before the first entry) is after `entry`.
 *
 * Everybody's state is this function applied to the entries in order, in the receiver as in the workshop.
 * Entries at or below the member's revision are already in it and change nothing, so any stretch of the
 * journal can be applied again without harm.
 */
export function applyToMember(member: Member | null, entry: Entry): Member | null {
  if (member !== null && entry.n <= member.revision) return member
  switch (entry.kind) {
    case 'arrival':
      if (!isJoining(entry.verdict) || entry.member === null || !entry.personal?.email) return member
      return {
        id: entry.member,
        list: entry.list,
        email: entry.personal.email,
        values: { ...member?.values, ...entry.personal.values },
        tags: [...new Set([...(member?.tags ?? []), ...(entry.personal.tags ?? [])])],
        status: entry.verdict === 'joined' ? 'confirmed' : 'waiting',
        joinedAt: entry.at,
        from: {
          form: entry.form,
          version: entry.version,
          spot: entry.spot,
          page: entry.personal.page,
          ...(entry.personal.cameFrom && { cameFrom: entry.personal.cameFrom }),
        },
        revision: entry.n,
      }
    case 'member-added':
      if (entry.personal === null) return member
      return {
        id: entry.member,
        list: entry.list,
        email: entry.personal.email,
        values: entry.personal.values,
        status: 'confirmed',
        joinedAt: entry.at,
        from: null,
        revision: entry.n,
      }
    case 'member-edited':
      if (member === null || entry.personal === null) return member
      return {
        ...member,
        email: entry.personal.email,
        values: entry.personal.values,
        ...(entry.personal.tags !== undefined && { tags: entry.personal.tags }),
        revision: entry.n,
      }
    // It changes nothing of them, so that no change on its way is refused for it.
    case 'member-noted':
      return member
    case 'member-removed':
      return member && { ...member, status: 'removed', revision: entry.n }
    case 'member-restored':
      return (
        member && {
          ...member,
          status: entry.status,
          ...(entry.waitsAnew && { joinedAt: entry.at }),
          revision: entry.n,
        }
      )
    case 'member-confirmed':
    case 'member-returned':
      return member && { ...member, status: 'confirmed', revision: entry.n }
    case 'member-left':
      return member && { ...member, status: 'left', revision: entry.n }
    case 'member-expired':
      return member && { ...member, status: 'removed', revision: entry.n }
    case 'member-bounced':
      return member && { ...member, status: 'bounced', revision: entry.n }
  }
}

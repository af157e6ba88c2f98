import type { Entry, MemberChange, NewEntry, Verdict } from '#core/journal'
import type { MemberId } from '#core/ids'
import { type Member, valueOf } from './member'

/** The members that an entry changes: none for a bot, or for someone already on the list. */
export function affectedMembers(entry: NewEntry): readonly MemberId[] {
  if ('members' in entry) return entry.members
  if (entry.member === null || (entry.kind === 'arrival' && !changesMember(entry.verdict))) return []
  return [entry.member]
}

/** Whoever has yet to confirm, and signs up again, is confirmed with what was typed last. */
function changesMember(verdict: Verdict): boolean {
  return isJoining(verdict) || verdict === 'already-waiting'
}

/** Whether a sign-up makes somebody a member, at once or once confirmed. */
export function isJoining(verdict: Verdict): verdict is 'joined' | 'confirm-first' {
  return verdict === 'joined' || verdict === 'confirm-first'
}

/**
 * The fold of the journal: what `member` (null before the first entry) is after `entry`; null for nobody any more.
 *
 * Everybody's state is this function applied to the entries in order, in the receiver as in the workshop.
 * Entries at or below the member's revision are already in it and change nothing, so any stretch of the
 * journal can be applied again without harm.
 */
export function applyToMember(member: Member | null, entry: Entry): Member | null {
  if (member !== null && entry.n <= member.revision) return member
  switch (entry.kind) {
    case 'arrival':
      if (entry.member === null || !entry.personal?.email) return member
      if (entry.verdict === 'already-waiting' && member?.status === 'waiting')
        return {
          ...member,
          email: entry.personal.email,
          values: { ...member.values, ...entry.personal.values },
          ...taggedWith(member, entry.personal.tags),
          ...passedBy(member, entry.personal.passed),
          revision: entry.n,
        }
      if (!isJoining(entry.verdict)) return member
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
          ...(entry.personal.zone !== undefined && { zone: entry.personal.zone }),
        },
        ...passedBy(null, entry.personal.passed),
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
    case 'member-corrected':
      if (member === null || entry.personal === null) return member
      return {
        ...member,
        email: entry.personal.email,
        // Links that went to the wrong address are of a waiting that is over.
        ...(member.status === 'waiting' && { joinedAt: entry.at }),
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
    case 'member-written': {
      if (entry.personal === null) return member
      const { email, values, tags } = entry.personal
      return {
        ...(member ?? { from: null, batch: entry.batch }),
        id: entry.member,
        list: entry.list,
        email,
        values,
        tags,
        status: entry.status,
        joinedAt: entry.joinedAt,
        revision: entry.n,
      }
    }
    case 'members-changed':
      return member === null || entry.personal === null ? member : changed(member, entry.personal.change, entry.n)
    case 'members-erased':
      return null
    case 'batch-begun':
    case 'batch-ended':
    // Whoever writes to the owner joins nothing by it.
    case 'message':
    case 'message-released':
    case 'messages-erased':
      return member
  }
}

/** How an entry that brings somebody onto a list, or takes them off, counts in its growth. */
export type Movement =
  /** They came, or went. */
  | 'own'
  /** They were brought in from a file, or added by hand. */
  | 'brought'
  /** What happened before is taken back, as if it had not happened: an undo is no arrival. */
  | 'taken-back'

export function movementOf(entry: Entry): Movement {
  switch (entry.kind) {
    case 'member-added':
    case 'member-written':
      return 'brought'
    case 'member-removed':
      return entry.isSlip ? 'taken-back' : 'own'
    case 'member-restored':
    // Who left has pressed "put me back" on the page that says so.
    case 'member-returned':
      return 'taken-back'
    case 'members-changed': {
      const kind = entry.personal?.change.kind
      return kind === 'restore' || kind === 'withdraw' ? 'taken-back' : 'own'
    }
    default:
      return 'own'
  }
}

function taggedWith(member: Member, tags: readonly string[] = []): Pick<Member, 'tags'> {
  const all = [...new Set([...(member.tags ?? []), ...tags])]
  return member.tags === undefined && all.length === 0 ? {} : { tags: all }
}

function passedBy(member: Member | null, passed: Record<string, string> = {}): Pick<Member, 'passed'> {
  const all = { ...member?.passed, ...passed }
  return Object.keys(all).length === 0 ? {} : { passed: all }
}

/** A member after a change that many get alike; the same object where it changes nothing of them. */
export function changed(member: Member, change: MemberChange, revision: number): Member | null {
  const { tags = [], values, status } = member
  switch (change.kind) {
    case 'tag':
      return tags.includes(change.tag) ? member : { ...member, tags: [...tags, change.tag], revision }
    case 'untag':
      return tags.includes(change.tag)
        ? { ...member, tags: tags.filter((tag) => tag !== change.tag), revision }
        : member
    case 'set': {
      if (valueOf(member, change.column) === change.value) return member
      const { [change.column]: _, ...others } = values
      return {
        ...member,
        values: change.value === '' ? others : { ...others, [change.column]: change.value },
        revision,
      }
    }
    // Who left is off the list by their own will, and stays known for it.
    case 'remove':
      return status === 'removed' || status === 'left' ? member : { ...member, status: 'removed', revision }
    // Nobody is confirmed by it who has yet to confirm.
    case 'restore':
      return status === 'confirmed' || status === 'waiting' ? member : { ...member, status: change.status, revision }
    case 'withdraw':
      return null
  }
}

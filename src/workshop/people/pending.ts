import type { ListId, MemberId } from '#core/ids'
import type { Command, Entry } from '#core/journal'
import { applyToMember, decide, type Found, type Member, type MemberStatus, type Roster, type Wanted } from '#core/list'
import type { QueuedCommand } from '../data'

/** A member as the owner sees it: the journal's state, with what is still on its way to the receiver laid over. */
export interface ShownMember extends Member {
  isPending?: boolean
  /** Their removal, while it is on its way, and what they were before. */
  removal?: { command: Command['id']; before: MemberStatus }
}

/** Those who are wanted, with what is on its way to the receiver laid over. Who is just added stands first. */
export function findWithPending(roster: Roster, wanted: Wanted, queued: readonly QueuedCommand[], now: number): Found {
  const { added, changed } = pendingIn(roster, wanted.list, queued)
  const { form, status, offset = 0, limit = Infinity } = wanted
  const mine = added.filter((member) => form === undefined && (status === undefined || member.status === status))
  const before = mine.slice(offset, offset + limit)
  const others = roster.find(
    { ...wanted, offset: Math.max(0, offset - mine.length), limit: limit - before.length },
    now,
    changed,
  )
  return { members: [...before, ...others.members], total: mine.length + others.total }
}

/** One of them, and the entries that will come of what is on its way; null for who is not here. */
export function memberWithPending(
  roster: Roster,
  list: ListId,
  id: MemberId,
  queued: readonly QueuedCommand[],
): { member: ShownMember; waiting: Entry[] } | null {
  const { added, changed, entries } = pendingIn(
    roster,
    list,
    queued.filter(({ command }) => command.member === id),
  )
  const member = changed.get(id) ?? roster.get(list, id) ?? added[0]
  return member === undefined ? null : { member, waiting: entries }
}

/** What queued commands will make of people. */
function pendingIn(
  roster: Roster,
  list: ListId,
  queued: readonly QueuedCommand[],
): { added: ShownMember[]; changed: Map<MemberId, ShownMember>; entries: Entry[] } {
  const changed = new Map<MemberId, ShownMember>()
  const added: ShownMember[] = []
  const entries: Entry[] = []
  for (const { command, queuedAt, takenBack } of queued) {
    const member = changed.get(command.member) ?? roster.get(list, command.member)
    if (member !== null && takenBack !== undefined) {
      changed.set(member.id, { ...member, status: takenBack, isPending: true })
      continue
    }
    const decision = decide(
      command,
      { isList: true, member, withAddress: (compared) => roster.withAddress(list, compared) },
      queuedAt,
    )
    if (!decision.ok) continue
    // Numbered after all that is known: the receiver gives the real number.
    const entry = { n: roster.cursor + entries.length + 1, ...decision.entry } as Entry
    const after = applyToMember(member, entry)
    if (after === null) continue
    entries.push(entry)
    if (member === null) added.push({ ...after, isPending: true })
    else
      changed.set(after.id, {
        ...after,
        revision: member.revision,
        isPending: true,
        ...(command.kind === 'remove-member' && { removal: { command: command.id, before: member.status } }),
      })
  }
  return { added, changed, entries }
}
